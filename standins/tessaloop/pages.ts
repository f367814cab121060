import { html } from 'hono/html';
import type { Faults } from '../shared/faults';
import type { Keys } from '../shared/keys';
import { page } from '../shared/page';
import { keptDays, type LeadForm, type LeadForms } from './lead-forms';
import { clickDays, refHours, type Notes } from './notes';
import { linkTemplate, type Post } from './posts';

const styles = `body{font:17px/1.5 'Trebuchet MS',sans-serif;margin:0;background:#eef3ff;color:#1b1d3a}main{max-width:62rem;margin:2rem auto;padding:0 1.2rem}article{background:#fff;border-radius:18px;padding:1rem 1.4rem;margin:0 0 1rem;max-width:34rem}h1{font-size:1.6rem}table{border-collapse:collapse;width:100%;background:#fff;font-size:.88em}td,th{border-bottom:1px solid #cfd8f5;padding:.4rem .7rem;text-align:left;vertical-align:top}small{color:#5b5f86}`;

export const frame = (title: string, body: unknown) => page(`${title} · Tessaloop`, styles, html`<main>${body}</main>`);

export const feedPage = (posts: readonly Post[]) =>
  frame(
    'Feed',
    html`<h1>Today</h1>
      ${posts.map(
        ({ id, by, text, ad, form, isPaid }) =>
          html`<article>
            <b>${by}</b> ${isPaid ? html`<small>paid for</small>` : ''}
            <p>${text}</p>
            <a href="/out/${id}">See more</a>${
              form ? html` · <a href="/form/${form}?ad=${encodeURIComponent(ad)}">Leave your details here</a>` : ''
            }
          </article>`,
      )}
      <p><a href="/account">For advertisers</a></p>`,
  );

/** A form that is filled in here, without leaving for the advertiser's website. */
export const formPage = ({ id, title }: LeadForm, place: string, ad: string) =>
  frame(
    title,
    html`<article>
      <h1>${title}</h1>
      <form method="post" action="/form/${id}">
        <input type="hidden" name="ad" value="${ad}" /><input type="hidden" name="place" value="${place}" />
        <p>
          <label>Name <input name="name" required /></label>
        </p>
        <p>
          <label>Company <input name="company" /></label>
        </p>
        <p>
          <label>Email <input name="mail" type="email" required /></label>
        </p>
        <p>
          <label>Telephone <input name="telephone" /></label>
        </p>
        <p>
          <label><input type="checkbox" name="test" /> This is a test lead</label>
        </p>
        <button>Send to Larkmoor Cargo Bikes</button>
      </form>
      <p>
        ${place === 'chat' ? 'Opened in the chat.' : html`<a href="/form/${id}?place=chat">The same in the chat</a>`}
      </p>
    </article>`,
  );

export const sentPage = ({ link }: LeadForm) =>
  frame(
    'Sent',
    html`<article>
      <h1>Sent</h1>
      <p>Larkmoor Cargo Bikes will be in touch.</p>
      <a href="${link}">See more of them</a>
    </article>`,
  );

/** What was told, newest first. */
export function accountPage(notes: Notes, forms: LeadForms, faults: Faults, keys: Keys) {
  const all = notes.all();
  return frame(
    'Account',
    html`<h1>${all.length} noted, ${notes.clicks().toLocaleString('en-GB')} clicks</h1>
      <p>
        Links are written as <code>${linkTemplate}</code>; <code>tsl</code> is added to every link. Clicks up to
        ${clickDays} days old count. What a page says by
        <code>tessaloop.say({ ref, what, moment, amount, money })</code> and what a server posts to
        <code>/intake</code> are one by their <code>ref</code>, for ${refHours} hours.
      </p>
      <table id="notes">
        <tbody>
          ${all
            .toReversed()
            .slice(0, 40)
            .map(
              (note) =>
                html`<tr>
                  <td>${note.moment.slice(0, 16).replace('T', ' ')}</td>
                  <td>${note.what}</td>
                  <td>${note.amount === undefined ? '' : `${note.money ?? ''} ${note.amount.toFixed(2)}`}</td>
                  <td>${note.told.join(' and ')}</td>
                  <td><code>${note.ref}</code></td>
                  <td><code>${note.tsl}</code></td>
                  <td><code title="${note.mail_hash}">${note.mail_hash.slice(0, 12)}</code></td>
                </tr>`,
            )}
        </tbody>
      </table>
      <h2>Lead forms</h2>
      <p>What people send is kept for ${keptDays} days. Test leads are not passed on from the chat.</p>
      <table id="lead-forms">
        <tbody>
          ${forms.all().map(
            ({ id, title, link }) =>
              html`<tr>
                <td><a href="/form/${id}">${title}</a></td>
                <td>${forms.leads().filter(({ form }) => form === id).length} sent</td>
                <td><code>${link}</code></td>
              </tr>`,
          )}
        </tbody>
      </table>
      ${keys.form('/account/keys')} ${faults.form('/account/faults')}`,
  );
}

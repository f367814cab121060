import { html } from 'hono/html';
import type { Faults } from '../shared/faults';
import type { Keys } from '../shared/keys';
import { page } from '../shared/page';
import { clickDays, refHours, type Notes } from './notes';
import { linkTemplate, type Post } from './posts';

const styles = `body{font:17px/1.5 'Trebuchet MS',sans-serif;margin:0;background:#eef3ff;color:#1b1d3a}main{max-width:62rem;margin:2rem auto;padding:0 1.2rem}article{background:#fff;border-radius:18px;padding:1rem 1.4rem;margin:0 0 1rem;max-width:34rem}h1{font-size:1.6rem}table{border-collapse:collapse;width:100%;background:#fff;font-size:.88em}td,th{border-bottom:1px solid #cfd8f5;padding:.4rem .7rem;text-align:left;vertical-align:top}small{color:#5b5f86}`;

export const frame = (title: string, body: unknown) => page(`${title} · Tessaloop`, styles, html`<main>${body}</main>`);

export const feedPage = (posts: readonly Post[]) =>
  frame(
    'Feed',
    html`<h1>Today</h1>
      ${posts.map(
        ({ id, by, text, isPaid }) =>
          html`<article>
            <b>${by}</b> ${isPaid ? html`<small>paid for</small>` : ''}
            <p>${text}</p>
            <a href="/out/${id}">See more</a>
          </article>`,
      )}
      <p><a href="/account">For advertisers</a></p>`,
  );

/** What was told, newest first. */
export function accountPage(notes: Notes, faults: Faults, keys: Keys) {
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
      ${keys.form('/account/keys')} ${faults.form('/account/faults')}`,
  );
}

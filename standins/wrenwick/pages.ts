import { html } from 'hono/html';
import type { Faults } from '../shared/faults';
import type { Keys } from '../shared/keys';
import { page } from '../shared/page';
import { clickDays, type Steps } from './steps';
import { linkTemplate, type Partner } from './partners';
import { styles } from './styles';

const frame = (title: string, body: unknown) =>
  page(
    `${title} · Wrenwick`,
    styles,
    html`<header><a href="/" class="mark">wrenwick</a> <a href="/account">For advertisers</a></header>
      <main>${body}</main>`,
  );

export const partnersPage = (partners: Partner[]) =>
  frame(
    'Partners',
    html`<h1>Who writes about what Larkmoor sells</h1>
      <ul>
        ${partners.map(({ id, name, title }) => html`<li>${name}: <a href="/partner/${id}">${title}</a></li>`)}
      </ul>`,
  );

/** A partner's own page, as its readers see it. */
export const partnerPage = ({ id, name, title, text }: Partner) =>
  page(
    `${title} · ${name}`,
    styles,
    html`<header><b>${name}</b></header>
      <main>
        <h1>${title}</h1>
        <p>${text}</p>
        <p><a href="/out/${id}">See them at Larkmoor</a></p>
        <p class="small">${name} is paid a share of what you buy there.</p>
      </main>`,
  );

/** What the advertiser told, newest first. */
export function accountPage(steps: Steps, faults: Faults, keys: Keys) {
  const rows = steps.newest(40);
  return frame(
    'Account',
    html`<h1>${String(steps.all().length)} steps counted, ${steps.clicks().toLocaleString('en-GB')} clicks</h1>
      <p>
        A step is one call: <code>/steps/…?wwk=&amp;step=&amp;sum=&amp;cur=&amp;no=</code>. Clicks up to ${clickDays}
        days old are paid for. What is told twice is counted twice; <code>returned</code> and <code>disputed</code> say
        what an earlier step with the same <code>no</code> is worth from then on.
        <span id="worth">GBP ${steps.worth('GBP').toFixed(2)}</span> in all.
      </p>
      <p>Links are written as <code>${linkTemplate}</code></p>
      <table>
        <thead>
          <tr>
            <th>When</th>
            <th>Step</th>
            <th>Sum</th>
            <th>No</th>
            <th>Partner</th>
            <th>Click</th>
          </tr>
        </thead>
        <tbody>
          ${rows.map(
            (row) =>
              html`<tr>
                <td>${row.at.slice(0, 16).replace('T', ' ')}</td>
                <td>${row.step}</td>
                <td class="number">${row.cur} ${row.sum}${row.now === undefined ? '' : `, now ${row.now}`}</td>
                <td><code>${row.no}</code></td>
                <td>${row.partner}</td>
                <td><code>${row.wwk}</code></td>
              </tr>`,
          )}
        </tbody>
      </table>
      ${rows.length === 0 ? html`<p>None yet.</p>` : ''} ${keys.form('/account/keys')} ${faults.form('/account/faults')}`,
  );
}

/** A key that was just made. */
export const keyPage = (keys: Keys) => frame('Key', html`${keys.fresh(keys.make(), '/account')}`);

import { html } from 'hono/html';
import { amountFields, stages, type Deal, type Deals } from './deals';
import type { Hook } from './hooks';
import { frame } from './frame';

const when = (iso: string) =>
  new Intl.DateTimeFormat('en-GB', {
    timeZone: 'Europe/London',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
  }).format(new Date(iso));

const money = (deal: Deal) => {
  const worth = deal.amounts.lease_profit;
  return worth ? `${worth.currency} ${Number(worth.amount).toLocaleString('en-GB')}` : '–';
};

/** A field's value; an address can be followed. */
const valueOf = (value: string) => {
  if (value === '') return html`<i>empty</i>`;
  return /^https?:\/\//.test(value) ? html`<a href="${value}"><code>${value}</code></a>` : html`<code>${value}</code>`;
};

/** Deals, newest first, searched and paged. */
export function dealsPage(deals: Deals, breaking: unknown, query: { find: string; stage: string; page: number }) {
  const perPage = 25;
  const found = deals.find(query.find, query.stage).reverse();
  const pages = Math.max(1, Math.ceil(found.length / perPage));
  const current = Math.min(Math.max(1, query.page), pages);
  const link = (to: number) =>
    `/?find=${encodeURIComponent(query.find)}&stage=${encodeURIComponent(query.stage)}&page=${to}`;
  return frame(
    'Deals',
    html`<form class="search" method="get">
        <h1>${found.length} deals</h1>
        <input name="find" value="${query.find}" placeholder="Company, person, mail, number" aria-label="Find a deal" />
        <select name="stage" aria-label="Stage">
          <option value="">Every stage</option>
          ${stages.map((stage) => html`<option ${stage === query.stage ? 'selected' : ''}>${stage}</option>`)}
        </select>
        <button>Find</button>
      </form>
      <table>
        <thead>
          <tr>
            <th>Deal</th>
            <th>Company</th>
            <th>Person</th>
            <th>Stage</th>
            <th class="number">Lease profit</th>
            <th>Made</th>
          </tr>
        </thead>
        <tbody>
          ${found.slice((current - 1) * perPage, current * perPage).map((deal) => {
            const { name, company } = deals.person(deal.person);
            return html`<tr>
              <td><a href="/deals/${deal.id}">${deal.id}</a></td>
              <td>${company || '–'}</td>
              <td>${name}</td>
              <td>${deal.stage}</td>
              <td class="number">${money(deal)}</td>
              <td>${when(deal.made_at)}</td>
            </tr>`;
          })}
        </tbody>
      </table>
      ${found.length === 0 ? html`<p class="empty">No deal matches.</p>` : ''}
      <nav class="pages">
        ${current > 1 ? html`<a href="${link(current - 1)}">Newer</a>` : ''} <span>page ${current} of ${pages}</span>
        ${current < pages ? html`<a href="${link(current + 1)}">Older</a>` : ''}
      </nav>
      <form method="post" action="/move-many" aria-label="Move many">
        <input type="hidden" name="find" value="${query.find}" />
        <input type="hidden" name="stage" value="${query.stage}" />
        <label
          >Move all of these to
          <select name="to">
            ${stages.map((stage) => html`<option>${stage}</option>`)}
          </select></label
        >
        <label>as <input name="by" value="Tom Harker" size="14" /></label>
        <button>Move them</button>
      </form>
      ${breaking}`,
  );
}

/** One deal: who, its stage to be moved, its profit, its fields as the form sent them. */
export function dealPage(deal: Deal, deals: Deals, hooks: Hook[]) {
  const person = deals.person(deal.person);
  return frame(
    `${deal.id} ${person.company}`,
    html`<p class="crumb"><a href="/">Deals</a> / ${deal.id}</p>
      <h1>${person.company || person.name}</h1>
      <p class="under">
        ${person.name} (${person.id}) · ${person.mail} · ${person.telephone || 'no telephone'}
        ${person.merged.length > 0 ? html` · took in ${person.merged.join(', ')}` : ''}
        ${deal.merged.length > 0 ? html` · this deal took in ${deal.merged.join(', ')}` : ''}
      </p>
      <div class="columns">
        <section>
          <h2>Stage: ${deal.stage}</h2>
          <form method="post" action="/deals/${deal.id}/stage" class="stages">
            ${stages.map(
              (stage) =>
                html`<button name="stage" value="${stage}" ${stage === deal.stage ? 'disabled' : ''}>${stage}</button>`,
            )}
          </form>
          <table>
            <tbody>
              ${[...deal.moves].reverse().map(
                (move) =>
                  html`<tr>
                    <td>${move.stage}${move.by ? `, by ${move.by}` : ''}</td>
                    <td class="number">${when(move.at)}</td>
                  </tr>`,
              )}
            </tbody>
          </table>
          ${amountFields.map(
            (field) =>
              html`<form method="post" action="/deals/${deal.id}/amount" class="amount">
                <label
                  >Profit over the lease
                  <input
                    name="amount"
                    value="${deal.amounts[field]?.amount ?? ''}"
                    inputmode="decimal"
                    pattern="[0-9]+([.][0-9]{1,2})?"
                /></label>
                <select name="currency" aria-label="Currency">
                  ${['GBP', 'EUR'].map(
                    (c) => html`<option ${c === deal.amounts[field]?.currency ? 'selected' : ''}>${c}</option>`,
                  )}
                </select>
                <button>Save</button>
              </form>`,
          )}
          <form method="post" action="/deals/${deal.id}/merge" class="amount">
            <label>Merge this deal into <input name="into" placeholder="D-5002" required /></label>
            <button>Merge deals</button>
          </form>
          <form method="post" action="/deals/${deal.id}/person" class="amount">
            <label>Merge ${person.name} into <input name="into" placeholder="P-1002" required /></label>
            <button>Merge people</button>
          </form>
          <form method="post" action="/deals/${deal.id}/delete"><button>Delete this deal</button></form>
        </section>
        <section>
          <h2>Fields</h2>
          <table>
            <thead>
              <tr>
                <th>Field</th>
                <th>Value</th>
                <th class="number">Holds</th>
              </tr>
            </thead>
            <tbody>
              ${Object.entries(deals.fields()).map(
                ([name, longest]) =>
                  html`<tr>
                    <td><code>${name}</code></td>
                    <td>${valueOf(deal.fields[name] ?? '')}</td>
                    <td class="number">${longest}</td>
                  </tr>`,
              )}
            </tbody>
          </table>
          ${(deal.notes ?? []).length > 0 ? html`<h2>Notes</h2>` : ''}
          ${[...(deal.notes ?? [])].reverse().map(
            ({ text, at }) =>
              html`<div class="note">
                <p>${when(at)}</p>
                ${text.split('\n').map((line) => html`<p>${/^https?:\/\//.test(line) ? valueOf(line) : line}</p>`)}
              </div>`,
          )}
          <h2>Webhooks sent</h2>
          <table>
            <tbody>
              ${hooks.map(
                (hook) =>
                  html`<tr>
                    <td>${hook.kind}</td>
                    <td>${hook.last_answer ? `answered ${hook.last_answer}` : 'on its way'}</td>
                    <td class="number">${hook.tries} ${hook.tries === 1 ? 'try' : 'tries'}</td>
                  </tr>`,
              )}
            </tbody>
          </table>
        </section>
      </div>`,
  );
}

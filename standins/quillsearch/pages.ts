import { html } from 'hono/html';
import { account, clickDays, linkTemplate, tellWithinDays, type Ad } from './account';
import type { Clicks } from './clicks';
import type { Intake } from './intake';
import type { Faults } from '../shared/faults';
import type { Keys } from '../shared/keys';
import { dayIn, nowMs } from '../shared/clock';
import { page } from '../shared/page';
import { styles } from './styles';

const frame = (title: string, body: unknown) => page(`${title} · Quillsearch`, styles, body);

const others = [
  [
    'Ten rounds, one bike',
    'wheelwrightweekly.example',
    'A florist in Penmarrow measured a month of deliveries by cargo bike and by van.',
  ],
  [
    'What a cargo bike lease includes',
    'tradecycling.example',
    'Tyres, brakes, insurance, a spare: what to ask before you sign for three years.',
  ],
  [
    'Cycle parking for businesses',
    'harbour-council.example',
    'Where loading bays may be used by cargo bikes, and how to ask for a new one.',
  ],
];

const markets = { uk: 'United Kingdom', ie: 'Ireland', nl: 'Netherlands' };

/** Results for what somebody asked, the market's ads first. */
export function searchPage(ads: Ad[], market: string, asked: string, larkmoor: string, signedIn: string) {
  const own = ads.filter((ad) => ad.market === market);
  const words = asked || 'lease electric cargo bikes for a business';
  return frame(
    words,
    html`<header class="ask">
        <a href="/" class="mark">Quillsearch</a>
        <form method="get">
          <input name="for" value="${words}" aria-label="What are you looking for" />
          <select name="market" aria-label="Market">
            ${Object.entries(markets).map(
              ([key, name]) => html`<option value="${key}" ${key === market ? 'selected' : ''}>${name}</option>`,
            )}
          </select>
          <button>Look</button>
        </form>
        <form method="post" action="/sign-in">
          <input name="mail" type="email" value="${signedIn}" placeholder="your email" aria-label="Signed in as" />
          <button>${signedIn ? 'Change' : 'Sign in'}</button>
        </form>
        <a href="/account" class="quiet">Advertiser’s account</a>
      </header>
      <aside class="paid">
        <p>Larkmoor Cargo Bikes pays for ${own.length === 1 ? 'this one' : `these ${own.length}`}</p>
        <div>
          ${own.map(
            (ad) =>
              html`<a href="/click/${ad.id}">
                <b>${ad.headline}</b>
                <span>${ad.text}</span>
              </a>`,
          )}
        </div>
      </aside>
      <main class="results">
        ${others.map(
          ([title, host, text]) =>
            html`<article>
              <p class="from">${host}</p>
              <h2>${title}</h2>
              <p>${text}</p>
            </article>`,
        )}
        <article>
          <p class="from">${new URL(larkmoor).host}</p>
          <h2><a href="${larkmoor}/">Larkmoor Cargo Bikes</a></h2>
          <p>Electric cargo bikes for bakeries, florists and couriers, sold and leased.</p>
        </article>
      </main>`,
  );
}

/** The advertiser's own report: clicks, outcomes, what was told lately. */
export function accountPage(clicks: Clicks, intake: Intake, faults: Faults, keys: Keys, replaying: boolean) {
  const today = dayIn(account.timeZone, nowMs());
  const from = dayIn(account.timeZone, nowMs() - 27 * 86_400_000);
  const clickRows = clicks.report(from, today);
  const total = clickRows.reduce((sum, row) => sum + row.clicks, 0);
  const spend = clickRows.reduce((sum, row) => sum + row.spend_cents, 0) / 100;
  const counted = intake.report(dayIn(account.timeZone, nowMs() - clickDays * 86_400_000), today, replaying);
  const wait = intake.waitHours();
  return frame(
    'Account',
    html`<header class="bar"><a href="/" class="mark">Quillsearch</a><span>${account.name}</span></header>
      <main>
        <h1>
          ${total.toLocaleString('en-GB')} clicks for ${account.currency}
          ${spend.toLocaleString('en-GB', { minimumFractionDigits: 2, maximumFractionDigits: 2 })} in 28 days
        </h1>
        <p class="quiet">
          Days in ${account.timeZone}. Outcomes are booked on the day of their click; clicks up to ${clickDays} days old
          are taken, told within ${tellWithinDays} days.
        </p>
        <div class="columns">
          <section>
            <h2>Outcomes counted, by click day</h2>
            <table id="outcomes">
              <thead>
                <tr>
                  <th>Click day</th>
                  <th>Outcome</th>
                  <th class="number">Counted</th>
                  <th class="number">Worth</th>
                </tr>
              </thead>
              <tbody>
                ${counted.slice(0, 14).map(
                  (row) =>
                    html`<tr>
                      <td>${row.day}</td>
                      <td><code>${row.outcome}</code></td>
                      <td class="number">${row.counted}</td>
                      <td class="number">
                        ${Object.entries(row.worth)
                          .map(([currency, sum]) => `${currency} ${sum.toFixed(2)}`)
                          .join(', ')}
                      </td>
                    </tr>`,
                )}
              </tbody>
            </table>
            ${counted.length === 0 ? html`<p class="quiet">None yet.</p>` : ''}
          </section>
          <section>
            <h2>Told lately</h2>
            <table>
              <thead>
                <tr>
                  <th>Call</th>
                  <th>Answered</th>
                </tr>
              </thead>
              <tbody>
                ${intake.newestCalls(8).map(
                  (call) =>
                    html`<tr>
                      <td>${call.at.slice(0, 16).replace('T', ' ')}</td>
                      <td>
                        ${Object.entries(call.answers)
                          .map(([answer, count]) => `${count} ${answer}`)
                          .join(', ')}
                      </td>
                    </tr>`,
                )}
              </tbody>
            </table>
            <h2>Outcomes known here</h2>
            <p>
              ${intake.outcomes().map((outcome) => html`<code>${outcome.id}</code> since ${outcome.made_at.slice(0, 10)} `)}
            </p>
            <form method="post" action="/account/outcomes">
              <label>Add one <input name="code" size="12" placeholder="its code" /></label>
              <button>Make</button>
            </form>
            <form method="post" action="/account/wait">
              <label
                >A new outcome counts after
                <input name="hours" value="${wait}" inputmode="numeric" size="3" /> hours</label
              >
              <button>Save</button>
            </form>
            <h2>Keys for programs</h2>
            ${keys.form('/account/keys')}
            <h2>Break it</h2>
            ${faults.form('/account/faults')}
            <form method="post" action="/account/repeats">
              <label
                ><input type="checkbox" name="forgets" value="yes" ${intake.forgetsRepeats() ? 'checked' : ''} />
                forgets which rows it was told before</label
              >
              <button>Set</button>
            </form>
            <h2>Link written on the ads</h2>
            <p><code>${linkTemplate}</code></p>
          </section>
          <section>
            <h2>Clicks, by day and campaign</h2>
            <table>
              <tbody>
                ${clickRows.slice(0, 16).map(
                  (row) =>
                    html`<tr>
                      <td>${row.day}</td>
                      <td><code>${row.campaign}</code></td>
                      <td class="number">${row.clicks}</td>
                    </tr>`,
                )}
              </tbody>
            </table>
          </section>
        </div>
      </main>`,
  );
}

/** A key that was just made. */
export const keyPage = (keys: Keys) => frame('Key', html`<main>${keys.fresh(keys.make(), '/account')}</main>`);

import type { DemoEvent } from './journeys';
import { makeRandom } from './random';
import type { DemoSize } from './sizes';

const minute = 60_000;
const hour = 60 * minute;
const day = 24 * hour;

/** Browsers of the shop, apart from those of the other journeys. */
const firstBrowser = 5_000_000;
const partners = ['pedal-post', 'yard-and-round'];
const parts = ['rain-cover', 'second-lock', 'brake-pads'];

/**
 * What happens in the shop in the last weeks before `end` (ms): readers of partners and people who know it, of whom some
 * buy, some after an ad too. In no order; it draws from numbers of its own, so that the other journeys stay as they are.
 */
export function generateShop(size: DemoSize, end: number, seed = 2701): DemoEvent[] {
  const random = makeRandom(seed);
  const events: DemoEvent[] = [];
  const lastMidnight = Math.floor(end / day) * day;
  let browser = firstBrowser;
  for (let before = size.latelyDays - 1; before >= 0; before--) {
    const midnight = lastMidnight - before * day;
    const visits = Math.round(size.lately * 0.09 * (0.6 + 0.8 * random.next()));
    for (let i = 0; i < visits; i++) {
      const at = midnight + 8 * hour + Math.floor(random.next() * 13 * hour);
      events.push(...shopJourney(random, browser++, at, size.faults));
    }
  }
  return events;
}

function shopJourney(random: ReturnType<typeof makeRandom>, browser: number, at: number, faults: boolean): DemoEvent[] {
  const browserOf = { browser, works: !faults || !random.chance(0.02), caps: faults && random.chance(0.28) };
  const page = (time: number, path: string, query = '', referrer = 'own'): DemoEvent => ({
    kind: 'page',
    at: time,
    ...browserOf,
    path,
    query,
    referrer,
    short: false,
    bot: false,
    office: false,
  });
  const partnerClick = (time: number): DemoEvent => ({
    kind: 'partner_click',
    at: time,
    ...browserOf,
    partner: random.pick(partners),
    key: `wk-${Buffer.from(random.bytes(9)).toString('base64url')}`,
  });
  const events: DemoEvent[] = [];
  let time = at;
  const how = random.weighted([
    [6, 'partner'],
    [2, 'ad first'],
    [2, 'known'],
  ]);
  if (how === 'ad first') {
    const key = `Qs${Buffer.from(random.bytes(12)).toString('base64url')}`;
    const ad = 'uk-27q1-fleet-winterproof.rain-still';
    events.push({ kind: 'click', at: time, ...browserOf, ad, key, lands: true, strips: false });
    time += random.whole(1, 4) * day;
  }
  events.push(how === 'known' ? page(time, '/shop', '', '') : partnerClick(time));
  if (!random.chance(how === 'known' ? 0.6 : 0.34)) return events;
  const part = random.pick(parts);
  time += random.whole(30, 300) * 1000;
  events.push(page(time, '/basket', `?part=${part}`));
  time += random.whole(30, 200) * 1000;
  events.push({ kind: 'order', at: time, browser, part, count: random.whole(1, 3) });
  return events;
}

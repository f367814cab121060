import type { DemoEvent } from './journeys';
import { makeRandom } from './random';
import type { DemoSize } from './sizes';

const minute = 60_000;
const hour = 60 * minute;
const day = 24 * hour;

/** Browsers of people who press something, apart from those of the other journeys. */
const firstBrowser = 7_000_000;
/** Days before the end at which the page that thanks for the guide moved. */
const guideMoved = 12;

/**
 * People of the last weeks before `end` (ms) who look for a dealer, ring, pick a time in the calendar or take the guide. In no
 * order; it draws from numbers of its own, so that the other journeys stay as they are.
 */
export function generatePresses(size: DemoSize, end: number, seed = 2802): DemoEvent[] {
  const random = makeRandom(seed);
  const events: DemoEvent[] = [];
  const lastMidnight = Math.floor(end / day) * day;
  let browser = firstBrowser;
  for (let before = size.latelyDays - 1; before >= 0; before--) {
    const people = Math.round(size.lately * 0.065 * (0.6 + 0.8 * random.next()));
    for (let i = 0; i < people; i++) {
      const at = lastMidnight - before * day + 8 * hour + Math.floor(random.next() * 12 * hour);
      events.push(...pressJourney(random, browser++, at, size.faults && before < guideMoved));
    }
  }
  return events;
}

function pressJourney(
  random: ReturnType<typeof makeRandom>,
  browser: number,
  at: number,
  hasMoved: boolean,
): DemoEvent[] {
  let time = at;
  const page = (path: string, referrer = 'own'): DemoEvent => ({
    kind: 'page',
    at: time,
    browser,
    works: true,
    caps: false,
    path,
    query: '',
    referrer,
    short: false,
    bot: false,
    office: false,
  });
  const press = (leadsTo: string): DemoEvent => ({
    kind: 'press',
    at: (time += random.whole(5, 90) * 1000),
    browser,
    leadsTo,
  });
  const next = (path: string): DemoEvent => {
    time += random.whole(10, 120) * 1000;
    return page(path);
  };
  const what = random.weighted([
    [4, 'dealer'],
    [3, 'ring'],
    [2, 'calendar'],
    [3, 'guide'],
  ]);
  switch (what) {
    case 'dealer':
      return [page('/dealers', ''), press(`https://dealers.example/${random.pick(['york', 'york', 'cork', 'delft'])}`)];
    case 'ring':
      return [page(random.pick(['/', '/care', '/fleet/lease']), ''), press('tel:')];
    case 'calendar':
      return [page('/fleet/call-back', ''), press('http://bellhour.localhost')];
    default:
      return [page('/', ''), next('/guide'), next(hasMoved ? '/guide/ready' : '/guide/thanks')];
  }
}

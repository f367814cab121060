import { drawArrival } from './channels';
import { generateCalls } from './calls';
import { generateEmails } from './emails';
import { generatePlatformForms } from './platform-forms';
import { makePeople, type PretendPerson } from './names';
import { generateRecords } from './records';
import { makeRandom, type Random } from './random';
import { generatePresses } from './presses';
import { generateShop } from './shop';
import type { DemoSize } from './sizes';

/* What happens outside, as plain events in the order of time. Nothing here knows what Avrix will make of it. */

export type DemoEvent =
  | {
      kind: 'click';
      at: number;
      browser: number;
      ad: string;
      key: string;
      lands: boolean;
      /** The browser takes click IDs that it knows out of addresses. */
      strips: boolean;
      works: boolean;
      caps: boolean;
    }
  | {
      kind: 'page';
      at: number;
      browser: number;
      path: string;
      query: string;
      referrer: string;
      /** The path is a short link's. */
      short: boolean;
      works: boolean;
      /** The browser ends cookies of scripts after 7 days. */
      caps: boolean;
      bot: boolean;
      /** From Larkmoor's own network. */
      office: boolean;
    }
  | {
      kind: 'partner_click';
      at: number;
      browser: number;
      partner: string;
      key: string;
      works: boolean;
      caps: boolean;
    }
  | { kind: 'order'; at: number; browser: number; part: string; count: number }
  /** A link is pressed that leads to an address that begins so. */
  | { kind: 'press'; at: number; browser: number; leadsTo: string }
  | { kind: 'form'; at: number; browser: number; path: string; form: string; person: PretendPerson }
  | { kind: 'rings'; at: number; person: PretendPerson }
  /** Somebody calls; where `says`, with the code that their page shows. Nobody answers a call of 0 seconds. */
  | {
      kind: 'calls';
      at: number;
      browser: number | null;
      says: boolean;
      dialled: string;
      caller: string;
      seconds: number;
    }
  | { kind: 'stage'; at: number; mail: string; stage: string }
  /** Somebody sends a form of the social platform's own. */
  | {
      kind: 'sends_there';
      at: number;
      form: string;
      ad: string;
      place: string;
      test: boolean;
      person: PretendPerson;
    }
  /** From now on leads get emails. */
  | { kind: 'starts_routines'; at: number }
  /** Whoever got the newest email writes back. */
  | { kind: 'writes_back'; at: number; text: string }
  /** From now on what such forms take is fetched. */
  | { kind: 'fetches'; at: number }
  /** Sales says what a deal brings, in pounds. */
  | { kind: 'values'; at: number; mail: string; profit: number }
  /** Sales makes one person, and one deal, of two. */
  | { kind: 'merge'; at: number; mail: string; into: string };

/** A banner between own pages that somebody tagged as if it were an ad. */
const taggedBanner = '?utm_source=home&utm_medium=banner&utm_campaign=uk-27q1-shop-spring-locks';

const minute = 60_000;
const hour = 60 * minute;
const day = 24 * hour;

/**
 * Thirteen months of visits, forms, calls and a salesperson's decisions, ending before `end` (ms), sorted by time.
 * @param seed the same seed gives the same events
 */
export function generate(size: DemoSize, end: number, quillsearch: string, seed = 1604): DemoEvent[] {
  const random = makeRandom(seed);
  const person = makePeople(random);
  const events: DemoEvent[] = [];
  const lastMidnight = Math.floor(end / day) * day;
  let browser = 0;
  for (let before = size.days - 1; before >= 0; before--) {
    const midnight = lastMidnight - before * day;
    const weekday = new Date(midnight).getUTCDay();
    const usual = before < size.latelyDays ? size.lately : size.before;
    const visits = Math.round(usual * (weekday === 0 || weekday === 6 ? 0.6 : 1.15) * (0.8 + 0.4 * random.next()));
    for (let i = 0; i < visits; i++) {
      const at = midnight + 7 * hour + Math.floor(random.next() ** 0.9 * 14 * hour);
      events.push(...journey(random, person, { size, quillsearch, browser: browser++, at, before }));
    }
    if (before < size.latelyDays && random.chance(0.12)) {
      const caller = person('uk');
      const at = midnight + 10 * hour + random.whole(0, 300) * minute;
      events.push({ kind: 'rings', at, person: caller }, ...sale(random, caller.mail, at, size.faults));
    }
  }
  return [
    ...events,
    ...generateShop(size, end),
    ...generatePresses(size, end),
    ...generateRecords(size, end),
    ...generatePlatformForms(size, end),
    ...generateCalls(size, end),
    ...generateEmails(end),
  ]
    .filter((event) => event.at < end)
    .sort((a, b) => a.at - b.at);
}

interface Coming {
  size: DemoSize;
  quillsearch: string;
  browser: number;
  at: number;
  /** Days before the last one. */
  before: number;
}

/** One visitor: the arrival, some pages, perhaps a direct return days later, perhaps a form, perhaps a sale. */
function journey(random: Random, newPerson: ReturnType<typeof makePeople>, coming: Coming): DemoEvent[] {
  const { size, browser, at } = coming;
  const arrival = drawArrival(random, coming);
  const works = !size.faults || !random.chance(0.015);
  const caps = size.faults && random.chance(0.28);
  const { bot, office } = arrival;
  const browserOf = { browser, works, caps };
  const events: DemoEvent[] = [];
  if (arrival.ad) {
    const key = `Qs${Buffer.from(random.bytes(12)).toString('base64url')}`;
    const lands = !size.faults || !random.chance(0.035);
    const strips = size.faults && random.chance(0.05);
    events.push({ kind: 'click', at, ...browserOf, ad: arrival.ad, key, lands, strips });
    if (!lands) return events;
  } else {
    const { path, query, referrer, short } = arrival;
    events.push({ kind: 'page', at, ...browserOf, path, query, referrer, short, bot, office });
    if (bot) return events;
  }
  let time = at;
  const walk = (path: string, referrer: string, query = '') => {
    time += random.whole(20, 240) * 1000;
    events.push({ kind: 'page', at: time, ...browserOf, path, query, referrer, short: false, bot, office });
  };
  for (
    let pages = random.weighted([
      [size.onePage, 0],
      [3, 1],
      [2, 2],
      [1, 4],
    ]);
    pages > 0;
    pages--
  )
    if (size.faults && random.chance(0.05)) walk('/shop', 'own', taggedBanner);
    else walk(random.pick(['/', '/shop', '/care', '/fleet', '/fleet', '/guide', '/fleet/lease']), 'own');

  const asks = random.chance(size.asking * (arrival.ad ? 0.15 : arrival.query || arrival.short ? 0.1 : 0.07));
  if (!asks) {
    if (!office && random.chance(size.returning)) {
      time = whenAwake(time + random.wait(6 * day, 1));
      walk(random.pick(['/', '/fleet', '/shop']), '');
    }
    return events;
  }
  const returns = random.chance(0.45);
  if (returns) time = whenAwake(time + random.wait(3 * day, 0.7));
  const path = arrival.path === '/fleet/call-back' || random.chance(0.16) ? '/fleet/call-back' : '/fleet';
  walk(path, returns ? '' : 'own');
  time += random.whole(40, 300) * 1000;
  const customer = newPerson(arrival.market);
  const person = office ? { ...customer, company: 'Larkmoor', mail: `desk${browser}@larkmoor.example` } : customer;
  const form = path === '/fleet' ? 'test-ride' : 'call-back';
  events.push({ kind: 'form', at: time, browser, path, form, person });
  return [...events, ...sale(random, person.mail, time, size.faults)];
}

/** What the salesperson makes of it: stages in order, some passed over, some moved back, many ended. */
function sale(random: Random, mail: string, asked: number, faults: boolean): DemoEvent[] {
  const events: DemoEvent[] = [];
  let time = asked;
  const move = (stage: string, middle: number, spread = 0.6) => {
    time = inOffice(time + random.wait(middle, spread));
    events.push({ kind: 'stage', at: time, mail, stage });
  };
  if (faults && random.chance(0.1)) return events;
  move('Spoken', 1.2 * day);
  if (random.chance(0.3)) {
    move('Not this time', 3 * day);
    return events;
  }
  const skips = faults && random.chance(0.08);
  if (skips) move('Offer', 9 * day);
  else move('Fleet assessed', 6 * day);
  if (faults && random.chance(0.05)) move('Spoken', 2 * day);
  if (random.chance(0.25)) {
    move('Not this time', 6 * day);
    return events;
  }
  if (!skips) move('Offer', 5 * day);
  move(random.chance(0.45) ? 'Signed' : 'Not this time', 12 * day, 0.8);
  return events;
}

/** Nobody asks at night. */
function whenAwake(time: number): number {
  const hours = new Date(time).getUTCHours();
  return hours >= 7 && hours < 21 ? time : time + ((31 - hours) % 24) * hour;
}

/** Sales work from nine to five, Monday to Friday. */
function inOffice(time: number): number {
  const closed = (at: number) => {
    const { weekday, hours } = { weekday: new Date(at).getUTCDay(), hours: new Date(at).getUTCHours() };
    return weekday === 0 || weekday === 6 || hours < 9 || hours >= 17;
  };
  let at = time;
  while (closed(at)) at += hour;
  return at;
}

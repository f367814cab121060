import fc from 'fast-check';
import { beforeAll, expect } from 'vitest';
import type { Membership } from '../../src/server/people/people';
import { makeEditor, rowsOf } from './place';
import { clickOn, makeBrowser } from './shop';
import { ask, crm, deliver, larkmoor, move, outside, place, qualify, rest, time } from './walks';

/*
 * What happens to orders and deals, in whatever order, and what each platform's own ledger should hold at the end, to the
 * penny. It is worked out here by a slow and plain way that shares nothing with the engine.
 */

type By = 'quillsearch' | 'wrenwick' | 'both';
export type Step =
  | { does: 'buy'; by: By; agrees: 'yes' | 'no' | 'not asked' }
  | { does: 'say again'; n: number }
  | { does: 'give back'; n: number; number: number; pence: number | null; step: 'refund' | 'chargeback' }
  | { does: 'deal' }
  | { does: 'move back and forth'; n: number }
  | { does: 'revalue'; n: number; pounds: number }
  | { does: 'fail'; service: 'quillsearch' | 'wrenwick'; how: 'busy' | 'broken' | 'lost' | 'none' }
  | { does: 'wait'; hours: number }
  | { does: 'work at once' }
  | { does: 'buy while it breaks down'; by: By; breakdown: Breakdown };

/** What becomes of a process while it works, on whatever it begins with or while a platform has its call. */
export interface Breakdown {
  /** It is killed, it stands still for longer than its lease, or MariaDB restarts under it. */
  how: 'killed' | 'stands still' | 'no database';
  when: 'it works' | 'it tells';
}

const n = fc.nat(5);
const usual: fc.WeightedArbitrary<Step>[] = [
  {
    weight: 4,
    arbitrary: fc.record({
      does: fc.constant('buy' as const),
      by: fc.constantFrom<By>('quillsearch', 'wrenwick', 'both'),
      agrees: fc.constantFrom('yes' as const, 'no' as const, 'not asked' as const, 'not asked' as const),
    }),
  },
  { weight: 1, arbitrary: fc.record({ does: fc.constant('say again' as const), n }) },
  {
    weight: 5,
    arbitrary: fc.record({
      does: fc.constant('give back' as const),
      n,
      number: fc.nat(2),
      pence: fc.option(fc.integer({ min: 1, max: 14_000 }), { nil: null }),
      step: fc.constantFrom('refund' as const, 'chargeback' as const),
    }),
  },
  { weight: 2, arbitrary: fc.record({ does: fc.constant('deal' as const) }) },
  { weight: 1, arbitrary: fc.record({ does: fc.constant('move back and forth' as const), n }) },
  {
    weight: 2,
    arbitrary: fc.record({ does: fc.constant('revalue' as const), n, pounds: fc.integer({ min: 1, max: 900 }) }),
  },
  {
    weight: 3,
    arbitrary: fc.record({
      does: fc.constant('fail' as const),
      service: fc.constantFrom('quillsearch' as const, 'wrenwick' as const),
      how: fc.constantFrom('busy' as const, 'broken' as const, 'lost' as const, 'none' as const),
    }),
  },
  { weight: 2, arbitrary: fc.record({ does: fc.constant('wait' as const), hours: fc.integer({ min: 1, max: 5 }) }) },
  { weight: 1, arbitrary: fc.record({ does: fc.constant('work at once' as const) }) },
];
export const steps = fc.array(fc.oneof(...usual), { minLength: 6, maxLength: 16 });
/** Days that are hard, gone through each time; one on which chance shows a fault is added here. */
export const hardDays: [Step[]][] = [
  // The answer to a telling is lost, some is given back before it is told again, then all of it.
  [
    [
      { does: 'fail', service: 'wrenwick', how: 'lost' },
      { does: 'fail', service: 'quillsearch', how: 'lost' },
      { does: 'buy', by: 'both', agrees: 'not asked' },
      { does: 'give back', n: 0, number: 0, pence: 6450, step: 'refund' },
      { does: 'fail', service: 'wrenwick', how: 'none' },
      { does: 'fail', service: 'quillsearch', how: 'none' },
      { does: 'wait', hours: 3 },
      { does: 'give back', n: 0, number: 1, pence: null, step: 'chargeback' },
    ],
  ],
  // The answer to a telling is lost, and all of it is given back before it is told again.
  [
    [
      { does: 'fail', service: 'wrenwick', how: 'lost' },
      { does: 'fail', service: 'quillsearch', how: 'lost' },
      { does: 'buy', by: 'both', agrees: 'yes' },
      { does: 'give back', n: 0, number: 0, pence: null, step: 'refund' },
    ],
  ],
  // What is given back is known before the order is; it is said again under the same numbers.
  [
    [
      { does: 'give back', n: 0, number: 0, pence: 1, step: 'refund' },
      { does: 'buy', by: 'both', agrees: 'yes' },
      { does: 'say again', n: 0 },
      { does: 'give back', n: 0, number: 0, pence: 1, step: 'refund' },
      { does: 'wait', hours: 2 },
      { does: 'give back', n: 0, number: 1, pence: 12_899, step: 'refund' },
    ],
  ],
  // A deal's worth changes while the platform is away, twice, and its stage goes back and forth.
  [
    [
      { does: 'deal' },
      { does: 'fail', service: 'quillsearch', how: 'broken' },
      { does: 'revalue', n: 0, pounds: 900 },
      { does: 'move back and forth', n: 0 },
      { does: 'revalue', n: 0, pounds: 1 },
      { does: 'work at once' },
    ],
  ],
];
/** The same with processes that break down while they tell. */
export const hardBreakdowns: [Step[]][] = [
  [
    (['killed', 'stands still', 'no database', 'killed'] as const).flatMap((how, n): Step[] => [
      { does: 'buy while it breaks down', by: 'both', breakdown: { how, when: 'it tells' } },
      { does: 'give back', n, number: 0, pence: 4300, step: 'refund' },
    ]),
  ],
];
/** Among them processes that break down. */
export const stepsWithBreakdowns = fc.array(
  fc.oneof(...usual, {
    weight: 6,
    arbitrary: fc.record({
      does: fc.constant('buy while it breaks down' as const),
      by: fc.constantFrom<By>('quillsearch', 'wrenwick', 'both'),
      breakdown: fc.record<Breakdown>({
        how: fc.constantFrom('killed', 'stands still', 'no database'),
        when: fc.constantFrom('it works', 'it tells', 'it tells'),
      }),
    }),
  }),
  { minLength: 6, maxLength: 12 },
);

let member: Membership;
let secret = '';
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id, 'Ledger'));
  // As a new one is proposed: a refund and a chargeback, in pounds.
  const { given } = await place.services.senders.setUp(member, 'new');
  const { id } = await place.services.senders.save(member, { ...given, id: '', name: 'Till' });
  ({ secret } = await place.services.senders.makeSecret(member, id));
  await outside.quillsearch.app.request('/account/outcomes', {
    method: 'POST',
    body: new URLSearchParams({ code: 'SHP-PAID' }),
  });
});

interface Bought {
  number: string;
  by: By;
  agrees: 'yes' | 'no' | 'not asked';
  browser: ReturnType<typeof makeBrowser>;
}
interface Dealt {
  deal: string;
  qsid: string;
  pounds: number;
}
/** What was given back of an order, in pence, each under its number; null for all of it. */
type GivenBack = Map<string, number | null>;

let runs = 0;
/** Makes a platform fail as its page does. */
export async function fail(service: 'quillsearch' | 'wrenwick', how: string): Promise<void> {
  const body = new URLSearchParams({ kind: how, seconds: '1' });
  await outside[service].app.request('/account/faults', { method: 'POST', body });
}

/**
 * Plays steps, heals what failed, and lets the hours go by until nothing waits.
 * @param breakDown makes a process break down while it tells
 */
export async function play(all: Step[], breakDown: (breakdown: Breakdown) => Promise<void> = () => Promise.resolve()) {
  const run = (runs += 1);
  const orders: Bought[] = [];
  const deals: Dealt[] = [];
  const given = new Map<string, GivenBack>();
  const numberOf = (of: number) => `LG-${run}-${of}`;
  const passes = async (hours: number) => {
    move(time + hours * 3_600_000);
    await rest();
  };
  const buys = async (by: By, agrees: Bought['agrees']) => {
    const browser = makeBrowser(agrees === 'not asked' ? undefined : agrees);
    if (by !== 'wrenwick') await browser.lands(await clickOn('quillsearch'));
    if (by !== 'quillsearch') await browser.lands(await clickOn('wrenwick'));
    const number = numberOf(orders.length);
    browser.says(number);
    orders.push({ number, by, agrees, browser });
    return browser;
  };
  const carryOut: { [K in Step['does']]: (of: Extract<Step, { does: K }>) => Promise<void> } = {
    buy: async ({ by, agrees }) => (await buys(by, agrees)).hands(),
    'buy while it breaks down': async ({ by, breakdown }) => {
      await (await buys(by, 'not asked')).sends();
      await breakDown(breakdown);
      await passes(0);
    },
    'say again': async ({ n: of }) => {
      const one = orders[of % Math.max(1, orders.length)];
      one?.browser.says(one.number);
      await one?.browser.hands();
    },
    // Also of an order that nobody has placed yet: it waits for it.
    'give back': async ({ n: of, number, pence, step: said }) => {
      const order = numberOf(of);
      const id = `${order} ${number}`;
      const known = given.get(order) ?? new Map<string, number | null>();
      given.set(order, known);
      // Whoever posts a number again posts what it said before.
      if (!known.has(id)) known.set(id, pence);
      const said0 = known.get(id)!;
      const amount = said0 === null ? {} : { amount: (said0 / 100).toFixed(2) };
      await place.services.takeNotices({ id: larkmoor.id, timeZone: 'Europe/London' }, 'till', {
        body: JSON.stringify({ id, step: said, order, at: new Date(time).toISOString(), ...amount }),
        secret,
        header: () => '',
      });
      await rest();
    },
    deal: async () => {
      const { deal, qsid } = await ask();
      await qualify(deal);
      deals.push({ deal, qsid, pounds: 540 });
    },
    'move back and forth': async ({ n: of }) => {
      const one = deals[of % Math.max(1, deals.length)];
      if (!one) return;
      await qualify(one.deal, 'Asked');
      await qualify(one.deal, 'Offer');
    },
    revalue: async ({ n: of, pounds }) => {
      const one = deals[of % Math.max(1, deals.length)];
      if (!one) return;
      one.pounds = pounds;
      await outside.oakledger.app.request(`/deals/${one.deal}/amount`, {
        method: 'POST',
        body: new URLSearchParams({ amount: String(pounds), currency: 'GBP' }),
      });
      await crm(`/api/deals/${one.deal}/fields`, { fields: {} });
      await deliver();
      await rest();
    },
    fail: ({ service, how }) => fail(service, how),
    wait: ({ hours }) => passes(hours),
    'work at once': async () => {
      move(time + 60_000);
      await Promise.all([rest(), place.services.runner.runToRest()]);
    },
  };
  for (const one of all) {
    await carryOut[one.does](one as never);
    move(time + 1000);
  }
  for (const service of ['quillsearch', 'wrenwick'] as const) await fail(service, 'none');
  for (let waited = 0; waited < 60; waited += 1) {
    await passes(1);
    if (!(await settleUnsure())) break;
  }
  return { orders, deals, given };
}

/**
 * Says of each unsure one what the platform's own ledger says, as a person does who looked.
 * @returns whether something waits, or was unsure
 */
async function settleUnsure(): Promise<boolean> {
  const open = await rowsOf<{ id: string; state: string; account: string; event: string; n: number; tells: number }>(
    place.db,
    `SELECT r.id, r.state, r.account, r.outcome_id AS event, r.correction AS n, r.tells_minor AS tells
     FROM report_backs r WHERE r.state IN ('waiting', 'unsure')`,
  );
  for (const { id, event, n: correction, tells } of open.filter(({ state }) => state === 'unsure')) {
    const own = ledgerOf('wrenwick').filter(({ no }) => no === event);
    const isThere =
      correction === 0
        ? own.some(({ step: name }) => name === 'paid')
        : own.some(({ step: name, sum }) => name !== 'paid' && Math.round(Number(sum) * 100) === Number(tells));
    await place.services.reportBacks.decide(larkmoor.id, id, isThere ? 'taken' : 'not taken', 'Ledger');
  }
  return open.length > 0;
}

interface LedgerRow {
  id: string;
  no: string;
  step: string;
  sum: string;
  now?: string;
  worth: number;
}
const ledgerOf = (service: 'quillsearch' | 'wrenwick'): LedgerRow[] =>
  outside.storedBy(service, service === 'quillsearch' ? 'outcomes' : 'steps');

/** What each platform holds of an event ID: how often, and what all of it is worth in pence. */
function heldBy(service: 'quillsearch' | 'wrenwick', event: string): { times: number; pence: number } {
  const pence = (pounds: string | number) => Math.round(Number(pounds) * 100);
  const rows =
    service === 'quillsearch'
      ? ledgerOf(service)
          .filter(({ id }) => id === event || id.startsWith(`${event}, again`))
          .map(({ worth }) => pence(worth))
      : ledgerOf(service)
          .filter(({ no, step: name }) => no === event && name === 'paid')
          .map(({ sum, now }) => pence(now ?? sum));
  return { times: rows.length, pence: rows.reduce((sum, one) => sum + one, 0) };
}

/** What an order of £129 is worth in pence, £60 of it without delivery, tax and goods, after what was given back. */
function worthOfOrder(back: GivenBack = new Map()): number {
  let left = 12_900;
  for (const pence of back.values()) left = pence === null ? 0 : Math.max(0, left - pence);
  return Math.floor((2 * 6000 * left + 12_900) / (2 * 12_900));
}
/** A deal is worth the quarter of its amount that is usually won. */
const worthOfDeal = (pounds: number): number => Math.floor((2 * pounds * 100 + 4) / 8);

const eventsOf = async (key: string) =>
  (await rowsOf<{ id: string }>(place.db, 'SELECT id FROM outcomes WHERE dedupe_key = ?', [key])).map(({ id }) => id);

const atMostOnce = (times: number) => times <= 1;

/** Holds what each platform has against what it should have. */
export async function expectLedgers({ orders, deals, given }: Awaited<ReturnType<typeof play>>): Promise<void> {
  for (const { number, by, agrees } of orders) {
    const [event, ...others] = await eventsOf(`order ${number}`);
    expect([number, Boolean(event), others]).toEqual([number, true, []]);
    const wanted = agrees === 'no' ? 0 : worthOfOrder(given.get(number));
    const toQuillsearch = by === 'wrenwick' ? 0 : wanted;
    const toWrenwick = by === 'quillsearch' ? 0 : wanted;
    expect({ number, quillsearch: heldBy('quillsearch', event!), wrenwick: heldBy('wrenwick', event!) }).toEqual({
      number,
      quillsearch: { times: expect.toSatisfy(atMostOnce), pence: toQuillsearch },
      wrenwick: { times: expect.toSatisfy(atMostOnce), pence: toWrenwick },
    });
  }
  for (const { deal, qsid, pounds } of deals) {
    const told = await rowsOf<{ event: string }>(
      place.db,
      'SELECT outcome_id AS event FROM report_backs WHERE key_value = ? AND correction = 0',
      [qsid],
    );
    expect([deal, told.length]).toEqual([deal, 1]);
    expect([deal, heldBy('quillsearch', told[0]!.event)]).toEqual([deal, { times: 1, pence: worthOfDeal(pounds) }]);
  }
}

/** How many rounds are gone: a few that are always the same, or for a quarter of an hour what chance gives. */
export const rounds = (numRuns: number, seed: number) =>
  process.env.TEST_LONG
    ? { numRuns: 10_000, interruptAfterTimeLimit: 15 * 60_000, markInterruptAsFailure: false }
    : { numRuns, seed };
/** How long (ms) they may take. */
export const roundsTake = process.env.TEST_LONG ? 20 * 60_000 : 240_000;

import fc from 'fast-check';
import { beforeAll, expect, it } from 'vitest';
import type { Membership } from '../../src/server/people/people';
import { makeEditor, rowsOf } from './place';
import { clickOn, makeBrowser } from './shop';
import { ask, crm, deliver, larkmoor, move, outside, place, qualify, rest, time } from './walks';

/*
 * Whatever happens, and in whatever order: at the end each platform's own ledger holds what it should, to the penny. What it
 * should hold is worked out here by a slow and plain way that shares nothing with the engine.
 */

type By = 'quillsearch' | 'wrenwick' | 'both';
type Step =
  | { does: 'buy'; by: By; agrees: 'yes' | 'no' | 'not asked' }
  | { does: 'say again'; n: number }
  | { does: 'give back'; n: number; number: number; pence: number | null; step: 'refund' | 'chargeback' }
  | { does: 'deal' }
  | { does: 'move back and forth'; n: number }
  | { does: 'revalue'; n: number; pounds: number }
  | { does: 'fail'; service: 'quillsearch' | 'wrenwick'; how: 'busy' | 'broken' | 'lost' | 'none' }
  | { does: 'wait'; hours: number }
  | { does: 'work at once' };

const n = fc.nat(5);
const step: fc.Arbitrary<Step> = fc.oneof(
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
      pence: fc.option(fc.integer({ min: 1, max: 14_000 })),
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
async function fail(service: 'quillsearch' | 'wrenwick', how: string): Promise<void> {
  const body = new URLSearchParams({ kind: how, seconds: '1' });
  await outside[service].app.request('/account/faults', { method: 'POST', body });
}

/** Plays steps, heals what failed, and lets the days go by until nothing waits. */
async function play(steps: Step[]) {
  const run = (runs += 1);
  const orders: Bought[] = [];
  const deals: Dealt[] = [];
  const given = new Map<string, GivenBack>();
  const numberOf = (of: number) => `LG-${run}-${of}`;
  const passes = async (hours: number) => {
    move(time + hours * 3_600_000);
    await rest();
  };
  const carryOut: { [K in Step['does']]: (of: Extract<Step, { does: K }>) => Promise<void> } = {
    buy: async ({ by, agrees }) => {
      const browser = makeBrowser(agrees === 'not asked' ? undefined : agrees);
      if (by !== 'wrenwick') await browser.lands(await clickOn('quillsearch'));
      if (by !== 'quillsearch') await browser.lands(await clickOn('wrenwick'));
      const number = numberOf(orders.length);
      browser.says(number);
      orders.push({ number, by, agrees, browser });
      await browser.hands();
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
  for (const one of steps) {
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

const length = process.env.TEST_LONG
  ? { numRuns: 10_000, interruptAfterTimeLimit: 30 * 60_000, markInterruptAsFailure: false }
  : { numRuns: 5, seed: 1704 };

it(
  'each platform holds what it should, once and to the penny, whatever happened on the way',
  async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 6, maxLength: 16 }), async (steps) => {
        const { orders, deals, given } = await play(steps);
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
          expect([deal, heldBy('quillsearch', told[0]!.event)]).toEqual([
            deal,
            { times: 1, pence: worthOfDeal(pounds) },
          ]);
        }
      }),
      length,
    );
  },
  process.env.TEST_LONG ? 35 * 60_000 : 240_000,
);

const atMostOnce = (times: number) => times <= 1;

import fc from 'fast-check';
import { beforeAll, expect, it } from 'vitest';
import { usualReading } from '../../src/core/outcomes/notices';
import type { OutcomeRule, TellingRule } from '../../src/core/outcomes';
import type { Membership } from '../../src/server/people/people';
import { makeEditor, rowsOf } from './place';
import { clickOn, makeBrowser } from './shop';
import { larkmoor, move, outside, place, rest, time } from './walks';

/*
 * Whatever is posted of subscriptions and sent as files, in whatever order and however Quillsearch answers: at the end its own
 * ledger holds what it should, to the penny. What it should hold is worked out here in a plain way that shares nothing with the
 * engine.
 */

type Step =
  | { does: 'subscribe' }
  | { does: 'pay'; n: number; payment: number; pence: number }
  | {
      does: 'give back';
      n: number;
      payment: number;
      number: number;
      pence: number | null;
      step: 'refund' | 'chargeback';
    }
  | { does: 'send a file'; rows: { order: number; pounds: number; change: 'new' | 'revalued' | 'taken-back' }[] }
  | { does: 'fail'; how: 'busy' | 'broken' | 'lost' | 'none' }
  | { does: 'wait'; hours: number }
  | { does: 'work at once' };

const n = fc.nat(2);
const payment = fc.nat(2);
const step: fc.Arbitrary<Step> = fc.oneof(
  { weight: 2, arbitrary: fc.record({ does: fc.constant('subscribe' as const) }) },
  {
    weight: 4,
    arbitrary: fc.record({ does: fc.constant('pay' as const), n, payment, pence: fc.integer({ min: 1, max: 9000 }) }),
  },
  {
    weight: 4,
    arbitrary: fc.record({
      does: fc.constant('give back' as const),
      n,
      payment,
      number: fc.nat(1),
      pence: fc.option(fc.integer({ min: 1, max: 9000 })),
      step: fc.constantFrom('refund' as const, 'chargeback' as const),
    }),
  },
  {
    weight: 4,
    arbitrary: fc.record({
      does: fc.constant('send a file' as const),
      rows: fc.array(
        fc.record({
          order: fc.nat(3),
          pounds: fc.integer({ min: 1, max: 900 }),
          change: fc.constantFrom('new' as const, 'new' as const, 'revalued' as const, 'taken-back' as const),
        }),
        { minLength: 1, maxLength: 6 },
      ),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      does: fc.constant('fail' as const),
      how: fc.constantFrom('busy' as const, 'broken' as const, 'lost' as const, 'none' as const),
    }),
  },
  { weight: 2, arbitrary: fc.record({ does: fc.constant('wait' as const), hours: fc.integer({ min: 1, max: 5 }) }) },
  { weight: 1, arbitrary: fc.record({ does: fc.constant('work at once' as const) }) },
);

let member: Membership;
let secret = '';
const outcome = (code: string, part: Pick<OutcomeRule, 'reachedBy' | 'countedOnceFor'>): OutcomeRule => ({
  code,
  version: 1,
  words: code,
  worth: { kind: 'realised', field: 'amount', less: [] },
  kind: 'payment',
  clickDays: 80,
  ...part,
});

beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id, 'Ledger'));
  const { id } = await place.services.senders.save(member, {
    id: '',
    name: 'Care till',
    proof: 'address',
    header: 'x-signature',
    reading: usualReading,
    steps: [
      { says: 'paid', means: 'happens' },
      { says: 'refund', means: 'refund' },
      { says: 'chargeback', means: 'chargeback' },
    ],
    refundSays: 'back',
    inMinor: false,
    currency: 'GBP',
  });
  ({ secret } = await place.services.senders.makeSecret(member, id));
  const { content } = await place.services.releases.live(larkmoor.id);
  const [telling] = content.telling.filter((one) => one.outcome === 'SHP-PAID' && one.platform === 'quillsearch');
  const tells = (code: string): TellingRule => ({ ...telling!, outcome: code, delayMinutes: 0 });
  move(time + 1000);
  await place.services.releases.make(larkmoor.id, {
    name: 'Payments and files count',
    note: '',
    content: {
      ...content,
      outcomes: [
        ...content.outcomes,
        outcome('CAR-PAY', {
          reachedBy: { kind: 'postback', sender: 'care-till', step: 'paid' },
          countedOnceFor: 'payment',
        }),
        outcome('LEA-FILE', { reachedBy: { kind: 'file', says: 'lease signed' }, countedOnceFor: 'order' }),
      ],
      telling: [...content.telling, tells('CAR-PAY'), tells('LEA-FILE')],
    },
  });
  for (const code of ['CAR-PAY', 'LEA-FILE'])
    await outside.quillsearch.app.request('/account/outcomes', { method: 'POST', body: new URLSearchParams({ code }) });
  move(time + 4 * 3_600_000);
});

let runs = 0;

/** What was said of one run: amounts in pence, by what each is known by. */
interface Said {
  payments: Map<string, number>;
  /** What was given back of a payment, each under its number; null for all of it. */
  given: Map<string, Map<string, number | null>>;
  /** What files say that orders are worth; 0 once one is taken back. */
  filed: Map<string, number>;
}

/** Plays steps, heals what failed, and lets the hours go by until nothing waits. */
async function play(steps: Step[]): Promise<Said> {
  const run = (runs += 1);
  const said: Said = { payments: new Map(), given: new Map(), filed: new Map() };
  const clicks: string[] = [];
  const orderClicks = new Map<string, { click: string; at: string }>();
  const passes = async (hours: number) => {
    move(time + hours * 3_600_000);
    await rest();
  };
  const posts = async (body: object) => {
    await place.services.takeNotices({ id: larkmoor.id, timeZone: 'Europe/London' }, 'care-till', {
      body: JSON.stringify({ at: new Date(time).toISOString(), ...body }),
      secret,
      header: () => '',
    });
    await rest();
  };
  const named = (of: number, paid: number) => ({
    subscription: `S-${run}-${of}`,
    payment: `P-${run}-${of}-${paid}`,
    click: clicks[of],
  });
  const carryOut: { [K in Step['does']]: (of: Extract<Step, { does: K }>) => Promise<void> } = {
    subscribe: async () => {
      if (clicks.length > 2) return;
      const browser = makeBrowser();
      const landing = await clickOn('quillsearch');
      await browser.lands(landing);
      await browser.hands();
      clicks.push(new URL(landing).searchParams.get('qsid')!);
    },
    // Nobody pays before somebody subscribed; a payment that is posted again says what it said before.
    pay: async ({ n: of, payment: paid, pence }) => {
      const { click, ...about } = named(of, paid);
      if (click === undefined) return;
      const amount = said.payments.get(about.payment) ?? pence;
      said.payments.set(about.payment, amount);
      const id = `paid ${about.payment}`;
      await posts({ id, step: 'paid', ...about, click, amount: (amount / 100).toFixed(2) });
    },
    'give back': async ({ n: of, payment: paid, number, pence, step: by }) => {
      const { click, ...about } = named(of, paid);
      if (click === undefined) return;
      const known = said.given.get(about.payment) ?? new Map<string, number | null>();
      said.given.set(about.payment, known);
      const id = `${about.payment} back ${number}`;
      if (!known.has(id)) known.set(id, pence);
      const back = known.get(id)!;
      await posts({ id, step: by, ...about, ...(back === null ? {} : { amount: (back / 100).toFixed(2) }) });
    },
    'send a file': async ({ rows }) => {
      const lines = [];
      for (const { order, pounds, change } of rows) {
        const number = `L-${run}-${order}`;
        if (!orderClicks.has(number)) {
          const click = new URL(await clickOn('quillsearch')).searchParams.get('qsid')!;
          move(time + 60_000);
          orderClicks.set(number, { click, at: new Date(time).toISOString() });
        }
        const { click, at } = orderClicks.get(number)!;
        lines.push([click, 'lease signed', at, pounds, 'GBP', number, change].join(','));
      }
      // Row by row: what is new once is known from then on, and only what is known can change.
      for (const { order, pounds, change } of rows) {
        const number = `L-${run}-${order}`;
        const isKnown = said.filed.has(number);
        if (change === 'new' ? !isKnown : isKnown) said.filed.set(number, change === 'taken-back' ? 0 : pounds * 100);
      }
      move(time + 60_000);
      const text = ['click_id,outcome,happened_at,amount,currency,order_id,change', ...lines].join('\n');
      const request = new Request('http://avrix.localhost/', { method: 'POST', body: text });
      const { filed } = place.services;
      const { id } = await filed.bring(member, 'Ledger', { name: `${run}.csv`, compares: '' }, request);
      const { how } = await filed.one(member, id);
      await filed.take(member, id, { ...how, platform: 'quillsearch', agreed: 'yes' });
      await rest();
    },
    fail: async ({ how }) => outside.fault(how),
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
  await outside.fault('none');
  for (let waited = 0; waited < 60; waited += 1) {
    await passes(1);
    const [open] = await rowsOf<{ n: number }>(
      place.db,
      "SELECT COUNT(*) AS n FROM report_backs WHERE state IN ('waiting', 'unsure')",
    );
    if (Number(open!.n) === 0) break;
  }
  return said;
}

/** What Quillsearch holds of an outcome, by what that is counted once for: how often, and what it is worth in pence. */
async function heldOf(key: string): Promise<{ times: number; pence: number }> {
  const events = await rowsOf<{ id: string }>(place.db, 'SELECT id FROM outcomes WHERE dedupe_key = ?', [key]);
  const held = outside
    .storedBy<{ id: string; worth: number }>('quillsearch', 'outcomes')
    .filter(({ id }) => events.some((event) => id === event.id || id.startsWith(`${event.id}, again`)));
  return { times: held.length, pence: Math.round(held.reduce((sum, { worth }) => sum + worth, 0) * 100) };
}

/** Days that are hard, gone through each time; one on which chance shows a fault is added here. */
const hardDays: [Step[]][] = [
  // The answer to a row is lost, and it is taken back before it is told again.
  [
    [
      { does: 'fail', how: 'lost' },
      { does: 'send a file', rows: [{ order: 0, pounds: 1, change: 'new' }] },
      { does: 'send a file', rows: [{ order: 0, pounds: 1, change: 'taken-back' }] },
    ],
  ],
  // A subscription is paid for three times, each another amount; the second is given back in part.
  [
    [
      { does: 'subscribe' },
      { does: 'pay', n: 0, payment: 0, pence: 6184 },
      { does: 'pay', n: 0, payment: 1, pence: 4472 },
      { does: 'give back', n: 0, payment: 1, number: 0, pence: 1000, step: 'refund' },
      { does: 'pay', n: 0, payment: 2, pence: 1 },
    ],
  ],
];
const length = process.env.TEST_LONG
  ? { numRuns: 10_000, interruptAfterTimeLimit: 15 * 60_000, markInterruptAsFailure: false }
  : { numRuns: 8, seed: 2706 };

it(
  'Quillsearch holds of payments and of rows of files what it should, once and to the penny',
  async () => {
    let checked = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 6, maxLength: 16 }), async (steps) => {
        const { payments, given, filed } = await play(steps);
        for (const [paid, pence] of payments) {
          let left = pence;
          for (const back of given.get(paid)?.values() ?? []) left = back === null ? 0 : Math.max(0, left - back);
          const { times, pence: held } = await heldOf(`payment ${paid}`);
          expect([paid, held, times <= 1]).toEqual([paid, left, true]);
          checked += times;
        }
        for (const [order, pence] of filed) {
          const { times, pence: held } = await heldOf(`order ${order}`);
          expect([order, held, times <= 1]).toEqual([order, pence, true]);
          checked += times;
        }
      }),
      { ...length, examples: hardDays },
    );
    // Of either kind something was told.
    expect(checked).toBeGreaterThan(10);
  },
  process.env.TEST_LONG ? 20 * 60_000 : 240_000,
);

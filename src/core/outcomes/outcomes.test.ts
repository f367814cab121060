import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { codes } from 'currency-codes';
import {
  countOutcome,
  dealHappenings,
  postedHappening,
  expectedWorth,
  leftWithin,
  minorDigits,
  reachedInTime,
  readAmount,
  stageMoves,
  worthOf,
  writeAmount,
  type Happening,
  type Money,
  type OutcomeRule,
  type StageChange,
  type WorthRule,
} from '.';
import { fleetQualified } from './rule.fixture';
import { outcomeRuleSchema } from './schema';

const rule = fleetQualified;
const stages = { inOrder: ['Asked', 'Spoken', 'Fleet assessed', 'Offer', 'Signed'], ended: ['Not this time'] };
const changes = (...rows: [stage: string, at: number][]) => rows.map(([stage, at]) => ({ stage, at }));

/** What a deal with these moves is counted for: the moves that reached the outcome. */
const countedOf = (of: OutcomeRule, moved: StageChange[], pipeline = stages) =>
  stageMoves(moved, pipeline.inOrder).flatMap(({ at, what }) => {
    const happening = { subject: { kind: 'enquiry' as const, id: 'e' }, at, what, keys: { enquiry: 'e' } };
    const counted = countOutcome({ ...happening, fields: {}, amounts: {} }, of, pipeline);
    return counted ? [{ at: counted.at, ...(counted.evidence as { stage: string; skipped: boolean }) }] : [];
  });
const atStage = (stage: string): OutcomeRule => ({ ...rule, reachedBy: { kind: 'stage', stage } });

describe('reaching a stage', () => {
  const own = (at: number) => [{ kind: 'stage', at, stage: 'Fleet assessed', skipped: false }];

  it('counts the first time, going back and forth changes nothing', () => {
    const moved = changes(['Asked', 1], ['Fleet assessed', 5], ['Spoken', 6], ['Fleet assessed', 9]);
    expect(countedOf(rule, moved)).toEqual(own(5));
  });

  it('takes a later stage for it: a stage skipped is reached', () => {
    expect(countedOf(rule, changes(['Asked', 1], ['Offer', 7]))).toEqual([
      { kind: 'stage', at: 7, stage: 'Offer', skipped: true },
    ]);
  });

  it('goes through its own stage where a later one comes in the same millisecond, however they are written', () => {
    const moved = changes(['Asked', 1], ['Spoken', 5], ['Fleet assessed', 5], ['Offer', 5], ['Signed', 5]);
    fc.assert(
      fc.property(fc.shuffledSubarray(moved, { minLength: 5 }), (shuffled) => {
        expect(countedOf(rule, shuffled)).toEqual(own(5));
      }),
    );
    const named = { inOrder: ['Z first', 'M own', 'A later'], ended: [] };
    const both = changes(['A later', 7], ['M own', 7]);
    expect(countedOf(atStage('M own'), both, named)).toMatchObject([{ at: 7, stage: 'M own', skipped: false }]);
  });

  it('is not reached by an ending, nor by a stage that the pipeline no longer has', () => {
    expect(countedOf(rule, changes(['Asked', 1], ['Not this time', 2]))).toEqual([]);
    expect(countedOf(atStage('Gone'), changes(['Asked', 1], ['Signed', 2]))).toEqual([]);
  });

  it('does not depend on the order in which changes arrive, and counts at most once', () => {
    const all = changes(['Asked', 1], ['Spoken', 2], ['Offer', 3], ['Fleet assessed', 4], ['Signed', 5]);
    fc.assert(
      fc.property(fc.shuffledSubarray(all, { minLength: 5 }), (shuffled) => {
        expect(countedOf(rule, shuffled).map(({ at }) => at)).toEqual([3]);
      }),
    );
  });

  it('is counted once for what its rule says, and not where there is none of that', () => {
    const [move] = stageMoves(changes(['Signed', 5]), stages.inOrder);
    const happening = { subject: { kind: 'enquiry' as const, id: 'e' }, ...move!, fields: {}, amounts: {} };
    const keyOf = (once: OutcomeRule['countedOnceFor'], keys: Happening['keys']) =>
      countOutcome({ ...happening, keys }, { ...rule, countedOnceFor: once }, stages)?.key ?? null;
    expect(keyOf('deal', { enquiry: 'e', deal: 'D-1' })).toBe('deal D-1');
    expect(keyOf('lead', { enquiry: 'e', deal: 'D-1' })).toBeNull();
  });
});

describe('an order', () => {
  const ordered: Happening = {
    subject: { kind: 'order', id: 'o' },
    at: 9,
    what: { kind: 'order' },
    keys: { order: 'LK-1' },
    fields: {},
    amounts: { total: { minor: 12_900, currency: 'GBP' } },
  };

  it('reaches the outcomes that orders reach, and no stage', () => {
    const paid: OutcomeRule = {
      ...rule,
      reachedBy: { kind: 'order' },
      worth: { kind: 'realised', field: 'total', less: [] },
      countedOnceFor: 'order',
    };
    expect(countOutcome(ordered, paid, stages)).toEqual({
      key: 'order LK-1',
      at: 9,
      evidence: { kind: 'order' },
      amount: { minor: 12_900, currency: 'GBP' },
      worth: { minor: 12_900, currency: 'GBP' },
    });
    expect(countOutcome(ordered, rule, stages)).toBeNull();
  });

  const taken = (fields: Record<string, string>): Happening => ({
    ...{ subject: { kind: 'conversion', id: 'c' }, at: 9, what: { kind: 'event', event: 'guide_taken' } },
    ...{ keys: { click: 's-1', visitor: 'v-1', conversion: 'c' }, fields, amounts: {} },
  });
  const guide = (conditions: object[]): OutcomeRule => ({
    ...rule,
    reachedBy: { kind: 'event', event: 'guide_taken', conditions: conditions as never },
    countedOnceFor: 'click',
  });

  it('reaches by an event under all of its conditions, once for the click, the browser or each time', () => {
    const isFleet = { reading: 'line', test: 'equals', not: false, text: 'fleet' };
    const notTest = { reading: 'mail', test: 'contains', not: true, text: '@larkmoor.example' };
    const counts = (fields: Record<string, string>) => countOutcome(taken(fields), guide([isFleet, notTest]), stages);
    expect(counts({ line: 'fleet' })).toMatchObject({
      key: 'click s-1',
      evidence: { kind: 'event', event: 'guide_taken' },
    });
    expect(counts({ line: 'shop' })).toBeNull();
    expect(counts({ line: 'fleet', mail: 'me@larkmoor.example' })).toBeNull();
    expect(counts({})).toBeNull();
    const keyOf = (countedOnceFor: OutcomeRule['countedOnceFor']) =>
      countOutcome(taken({}), { ...guide([]), countedOnceFor }, stages)?.key;
    expect([keyOf('visitor'), keyOf('conversion'), keyOf('enquiry')]).toEqual([
      'visitor v-1',
      'conversion c',
      undefined,
    ]);
  });

  it('reaches by the page that somebody comes to, and by no other', () => {
    const came = (path: string): Happening => ({ ...taken({}), what: { kind: 'page', path } });
    const welcome: OutcomeRule = {
      ...guide([]),
      reachedBy: { kind: 'page', test: 'begins', text: '/care/welcome' },
    };
    expect(countOutcome(came('/care/welcome/2'), welcome, stages)?.evidence).toEqual({
      kind: 'page',
      path: '/care/welcome/2',
    });
    expect(countOutcome(came('/care'), welcome, stages)).toBeNull();
  });

  it('reaches by a field of the deal since it has the value: when it changed, else when the deal was made', () => {
    const approved: OutcomeRule = {
      ...rule,
      reachedBy: { kind: 'field', name: 'financing', test: 'equals', text: 'approved' },
    };
    const record = { stageChanges: [], fields: { financing: 'approved' }, amounts: {}, madeAt: 5 };
    const counted = (fieldsAt?: Record<string, number>) =>
      dealHappenings('e', { ...record, ...(fieldsAt ? { fieldsAt } : {}) }, {}, stages, {}, ['financing']).map((one) =>
        countOutcome(one, approved, stages),
      );
    expect(counted()).toMatchObject([{ key: 'enquiry e', at: 5, evidence: { kind: 'field', value: 'approved' } }]);
    expect(counted({ financing: 8 })).toMatchObject([{ at: 8 }]);
    expect(dealHappenings('e', { ...record, fields: {} }, {}, stages, {}, ['financing'])).toEqual([]);
  });

  it('reaches by what a sender posts of it, once for the order or for each payment, with the amount that is posted', () => {
    const money = { minor: 2900, currency: 'GBP' };
    const posted = postedHappening(ordered, {
      sender: 'till',
      step: 'paid',
      at: 20,
      payment: 'P-1',
      undoes: false,
      number: 'n',
      money,
    });
    const paid: OutcomeRule = {
      ...rule,
      reachedBy: { kind: 'postback', sender: 'till', step: 'paid' },
      worth: { kind: 'realised', field: 'amount', less: [] },
      countedOnceFor: 'payment',
    };
    expect(countOutcome(posted, paid, stages)).toEqual({
      key: 'payment P-1',
      at: 20,
      evidence: { kind: 'postback', sender: 'till', step: 'paid' },
      amount: money,
      worth: money,
    });
    expect(countOutcome(posted, { ...paid, countedOnceFor: 'order' }, stages)?.key).toBe('order LK-1');
    for (const reachedBy of [
      { kind: 'postback', sender: 'till', step: 'sent' },
      { kind: 'postback', sender: 'other', step: 'paid' },
      { kind: 'order' },
    ] as const)
      expect(countOutcome(posted, { ...paid, reachedBy }, stages)).toBeNull();
    expect(countOutcome(ordered, paid, stages)).toBeNull();
  });
});

describe('worth', () => {
  it('is the amount times the win rate, rounded half up to a whole penny', () => {
    expect(expectedWorth({ minor: 54_000, currency: 'GBP' }, { won: 1, of: 4 }).minor).toBe(13_500);
    expect(expectedWorth({ minor: 2, currency: 'GBP' }, { won: 1, of: 4 }).minor).toBe(1);
    expect(expectedWorth({ minor: 1, currency: 'GBP' }, { won: 1, of: 4 }).minor).toBe(0);
  });

  const rate = fc
    .tuple(fc.nat(10 ** 6), fc.integer({ min: 1, max: 10 ** 6 }))
    .map(([a, b]) => ({ won: Math.min(a, b), of: Math.max(a, b) }));
  const largest = Number.MAX_SAFE_INTEGER;
  const worthOf = (minor: number, winRate: { won: number; of: number }) =>
    expectedWorth({ minor, currency: 'GBP' }, winRate).minor;

  it('is never more than the amount, at any win rate', () => {
    fc.assert(
      fc.property(fc.maxSafeNat(), rate, (minor, winRate) => {
        const worth = worthOf(minor, winRate);
        expect(worth).toBeLessThanOrEqual(minor);
        expect(Number.isSafeInteger(worth)).toBe(true);
      }),
    );
  });

  it('is exact for every amount that can be stored, also one that is given back', () => {
    fc.assert(
      fc.property(fc.maxSafeInteger(), rate, (minor, winRate) => {
        const [exact, of] = [BigInt(minor) * BigInt(winRate.won), BigInt(winRate.of)];
        // Half up: the worth lies at most half a minor unit above what is exact, and less than half below it.
        const off = 2n * (BigInt(worthOf(minor, winRate)) * of - exact);
        expect(off <= of && off > -of).toBe(true);
      }),
    );
    expect(worthOf(largest, { won: 999_999, of: 1_000_000 })).toBe(9_007_190_247_541_736);
    expect(worthOf(-3, { won: 1, of: 2 })).toBe(-1);
  });

  it('takes no win rate over 1', () => {
    const rateOf = (winRate: { won: number; of: number }) =>
      outcomeRuleSchema.safeParse({ ...rule, worth: { ...rule.worth, winRate } });
    expect(rateOf({ won: 4, of: 4 }).success).toBe(true);
    expect(rateOf({ won: 5, of: 4 }).error?.issues[0]).toMatchObject({
      path: ['worth', 'winRate', 'won'],
      message: 'must not be more than all there were',
    });
  });
});

describe('worth by its rule', () => {
  const total = { minor: 12_900, currency: 'GBP' };
  const tax = { minor: 2150, currency: 'GBP' };
  const euros = { minor: 999, currency: 'EUR' };
  it.each([
    [{ kind: 'none' }, null, null],
    [{ kind: 'fixed', amount: { minor: 500, currency: 'EUR' } }, null, { minor: 500, currency: 'EUR' }],
    [{ kind: 'realised', field: 'total', less: [] }, total, total],
    [
      { kind: 'realised', field: 'total', less: ['tax', 'unknown', 'euros'] },
      total,
      { minor: 10_750, currency: 'GBP' },
    ],
    [{ kind: 'realised', field: 'profit', less: [] }, null, null],
    [{ kind: 'expected', field: 'total', winRate: { won: 1, of: 3 } }, total, { minor: 4300, currency: 'GBP' }],
  ] as [WorthRule, Money | null, Money | null][])('%j', (kind, amount, worth) =>
    expect(worthOf({ total, tax, euros }, kind)).toEqual({ amount, worth }),
  );
});

describe('amounts as text', () => {
  it.each([
    ['540', 'GBP', 54_000],
    ['1249.5', 'GBP', 124_950],
    ['-3.07', 'EUR', -307],
    ['1200', 'JPY', 1200],
    ['1.234', 'KWD', 1234],
    ['540.00', 'GBP', 54_000],
    ['1200', 'XAF', 1200],
    ['1200', 'XOF', 1200],
    ['35000', 'UGX', 35_000],
    ['7300000', 'PYG', 7_300_000],
    ['1.234', 'LYD', 1234],
    ['1.234', 'IQD', 1234],
    ['1.2345', 'CLF', 12_345],
  ])('%s %s', (text, currency, minor) => expect(readAmount(text, currency)).toEqual({ minor, currency }));

  it.each(['', 'abc', '1,000', '1.234', '1e5', '.5', '12.', '--1'])('refuses “%s” in pounds', (text) =>
    expect(readAmount(text, 'GBP')).toBeNull(),
  );

  it('have the decimals of ISO 4217, two where it lists none', () => {
    const none = codes().filter((code) => minorDigits(code) === 0);
    expect(none).toEqual(
      expect.arrayContaining(['JPY', 'KRW', 'ISK', 'CLP', 'VND', 'XAF', 'XOF', 'XPF', 'UGX', 'PYG']),
    );
    expect(codes().filter((code) => minorDigits(code) === 3)).toEqual(
      expect.arrayContaining(['BHD', 'IQD', 'JOD', 'KWD', 'LYD', 'OMR', 'TND']),
    );
    // The runtime's own table differs: it gives these no decimals.
    expect(['HUF', 'LBP', 'IRR'].map(minorDigits)).toEqual([2, 2, 2]);
    expect(minorDigits('ABC')).toBe(2);
  });

  it('are refused where they are too large to be counted exactly', () => {
    expect(readAmount('90071992547409.91', 'GBP')?.minor).toBe(Number.MAX_SAFE_INTEGER);
    for (const [text, currency] of [
      ['90071992547409.92', 'GBP'],
      ['9999999999999.999', 'KWD'],
      ['-9007199254740992', 'JPY'],
    ] as const)
      expect(readAmount(text, currency)).toBeNull();
  });

  it('are read back as they were written', () => {
    fc.assert(
      fc.property(fc.maxSafeInteger(), fc.constantFrom(...codes()), (minor, currency) => {
        const money = { minor: minor === 0 ? 0 : minor, currency };
        expect(readAmount(writeAmount(money), currency)).toEqual(money);
      }),
    );
  });
});

describe('a deal that leaves an outcome’s stage', () => {
  const left = (...pairs: [string, number][]) => leftWithin(rule, changes(...pairs), stages, 5, 60);

  it('within the delay of the telling is named, with where it is', () => {
    expect(left(['Asked', 1], ['Fleet assessed', 5], ['Not this time', 20])).toBe('Not this time');
    expect(left(['Fleet assessed', 5], ['Asked', 20])).toBe('Asked');
  });

  it('is not named where it went on, came back, or left later', () => {
    expect(left(['Fleet assessed', 5], ['Offer', 20])).toBeNull();
    expect(left(['Fleet assessed', 5], ['Asked', 20], ['Fleet assessed', 30])).toBeNull();
    expect(left(['Fleet assessed', 5], ['Not this time', 65])).toBeNull();
    expect(left(['Fleet assessed', 5], ['Asked', 20], ['Fleet assessed', 30], ['Not this time', 90])).toBeNull();
    expect(left(['Fleet assessed', 5])).toBeNull();
  });
});

describe('the stage that would have come in time', () => {
  const day = 86_400_000;
  const inTime = (...moves: [string, number][]) =>
    reachedInTime(
      { ...rule, clickDays: 80 },
      changes(...moves.map(([stage, at]) => [stage, at * day] as [string, number])),
      stages,
      0,
      60,
    );

  it('is the last one before the outcome’s own that the deal reached while the click was young enough', () => {
    expect(inTime(['Asked', 1], ['Spoken', 20], ['Fleet assessed', 90])).toEqual({ stage: 'Spoken', days: 20 });
    expect(inTime(['Asked', 1], ['Spoken', 60], ['Signed', 90])).toEqual({ stage: 'Asked', days: 1 });
  });

  it('is none where all came too late, or only its own and ended ones came', () => {
    expect(inTime(['Spoken', 61], ['Signed', 90])).toBeNull();
    expect(inTime(['Not this time', 5], ['Fleet assessed', 90])).toBeNull();
    expect(inTime(['Unheard of', 5])).toBeNull();
  });
});

import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { reportBackStates } from '../reportbacks/answers';
import { bridgeOf, claimsOf, countedBy, counters, type BridgeRow, type Counter } from './bridge';

const isWithin = (day: string) => day >= '2027-01-01' && day <= '2027-01-31';
const row = (given: Partial<BridgeRow> = {}): BridgeRow => ({
  id: 'a',
  day: '2027-01-10',
  told: { state: 'confirmed', reason: null, day: '2027-01-10' },
  hasClick: true,
  counted: 'yes',
  deals: 1,
  dealless: 'never',
  ...given,
});
const held = (reason: NonNullable<BridgeRow['told']>['reason']): BridgeRow['told'] => ({
  state: 'held',
  reason,
  day: '2027-01-10',
});
/** The one step that a row is in, with its sign; '' for none. */
function stepOf(given: Partial<BridgeRow>, from: Counter, to: Counter, reported: number | null = null): string {
  const { steps } = bridgeOf([row(given)], from, to, reported, isWithin);
  return steps.map(({ key, count }) => `${count > 0 ? '+' : ''}${count} ${key}`).join(', ');
}

describe('a bridge', () => {
  it('has no step for what both count', () => {
    for (const to of counters) expect(stepOf({}, 'platform', to)).toBe('');
  });

  it('names what the platform has and the others do not', () => {
    expect(stepOf({ day: '2027-02-01' }, 'platform', 'website')).toBe('-1 its_days');
    expect(stepOf({ counted: 'taken back' }, 'platform', 'website')).toBe('-1 taken_back');
    expect(stepOf({ counted: 'taken back' }, 'platform', 'crm')).toBe('');
    expect(stepOf({ deals: 0, dealless: 'gone' }, 'platform', 'crm')).toBe('-1 gone');
    expect(stepOf({ deals: 0, dealless: 'not yet' }, 'website', 'crm')).toBe('-1 not_in_crm_yet');
  });

  it('names why the platform does not have what the others do', () => {
    const reasons = (told: BridgeRow['told'], hasClick = true) => stepOf({ told, hasClick }, 'platform', 'crm');
    expect(reasons({ state: 'confirmed', reason: null, day: '2026-12-31' })).toBe('+1 our_days');
    expect(reasons({ state: 'told', reason: null, day: '2027-01-10' })).toBe('+1 not_reported_yet');
    expect(reasons(null)).toBe('+1 not_told');
    expect(reasons(null, false)).toBe('+1 never_arrived');
    expect(reasons(held({ code: 'no_click_in_crm' }))).toBe('+1 lost_before_crm');
    expect(reasons(held({ code: 'crm_click_differs' }))).toBe('+1 changed');
    expect(reasons(held({ code: 'no_consent' }))).toBe('+1 no_consent');
    expect(reasons(held({ code: 'click_too_old', days: 96, limit: 80 }))).toBe('+1 too_old');
    expect(reasons(held({ code: 'probably_same', as: 'LK-1' }))).toBe('+1 duplicate');
    expect(reasons(held({ code: 'held_by', by: 'Ines' }))).toBe('+1 stopped');
    expect(reasons({ ...held(null)!, state: 'waiting' })).toBe('+1 stopped');
    expect(reasons({ ...held({ code: 'withdrawn_by', by: 'Ines' })!, state: 'withdrawn' })).toBe('+1 not_told');
    const refused = { code: 'refused', platform: 'Quillsearch', answer: 'no such click' } as const;
    expect(reasons({ ...held(refused)!, state: 'refused' })).toBe('+1 refused');
  });

  it('names deals that no outcome stands for, and the second deal of one', () => {
    expect(stepOf({ told: null, counted: 'no' }, 'website', 'crm')).toBe('+1 not_counted');
    expect(stepOf({ told: null, counted: 'no customer' }, 'platform', 'crm')).toBe('+1 no_customer');
    expect(stepOf({ told: null, counted: 'once' }, 'platform', 'crm')).toBe('+1 counted_once');
    expect(stepOf({ deals: 2 }, 'website', 'crm')).toBe('+1 more_deals');
    expect(stepOf({ deals: 2 }, 'platform', 'crm')).toBe('+1 more_deals');
  });

  it('says what the platform counts without us, and cannot explain what it counts no more', () => {
    expect(stepOf({}, 'platform', 'website', 4)).toBe('-3 without_us');
    expect(stepOf({}, 'website', 'platform', 4)).toBe('+3 without_us');
    expect(stepOf({}, 'platform', 'website', 0)).toBe('+1 unexplained');
  });
});

const days = fc.constantFrom('2026-12-31', '2027-01-01', '2027-01-20', '2027-01-31', '2027-02-01');
const reason = fc.constantFrom(
  ...([null, { code: 'no_consent' }, { code: 'no_click_in_crm' }, { code: 'not_due' }] as const),
);
const rows = fc.uniqueArray(
  fc.record<BridgeRow>({
    id: fc.uuid(),
    day: days,
    told: fc.option(fc.record({ state: fc.constantFrom(...reportBackStates), reason, day: days })),
    hasClick: fc.boolean(),
    counted: fc.constantFrom('yes', 'taken back', 'no customer', 'once', 'no'),
    deals: fc.nat(3),
    dealless: fc.constantFrom('not yet', 'never', 'gone', 'not at the stage'),
  }),
  { selector: ({ id }) => id, maxLength: 30 },
);
const reported = fc.option(fc.nat(40));
const two = fc.shuffledSubarray([...counters], { minLength: 2, maxLength: 2 }) as fc.Arbitrary<[Counter, Counter]>;

test('it always adds up, has each row in one step at most, and is the same from its other end', () => {
  fc.assert(
    fc.property(rows, two, reported, (all, [from, to], said) => {
      const bridge = bridgeOf(all, from, to, said, isWithin);
      expect(bridge.steps.reduce((sum, { count }) => sum + count, bridge.from)).toBe(bridge.to);
      const known = (who: Counter) => all.reduce((sum, one) => sum + countedBy(one, who, isWithin), 0);
      for (const [end, who] of [
        [bridge.from, from],
        [bridge.to, to],
      ] as const)
        expect(end).toBe(who === 'platform' && said !== null ? said : known(who));
      const inSteps = bridge.steps.flatMap((step) => step.rows.map(({ id }) => id));
      expect(new Set(inSteps).size).toBe(inSteps.length);
      const back = bridgeOf(all, to, from, said, isWithin);
      expect(back.steps.map(({ key, count }) => [key, -count])).toEqual(
        bridge.steps.map(({ key, count }) => [key, count]),
      );
    }),
  );
});

test('a row that two of them count otherwise is always in a step', () => {
  fc.assert(
    fc.property(rows, two, (all, [from, to]) => {
      const inSteps = new Set(
        bridgeOf(all, from, to, null, isWithin).steps.flatMap((step) => step.rows.map(({ id }) => id)),
      );
      for (const one of all)
        expect(inSteps.has(one.id)).toBe(countedBy(one, from, isWithin) !== countedBy(one, to, isWithin));
    }),
  );
});

describe('what all platforms claim', () => {
  it('is what is counted without us, what is claimed again, what is different, and what nobody claims', () => {
    const claims = [
      { reported: 5, confirmed: ['a', 'b', 'c'] },
      { reported: null, confirmed: ['b', 'd'] },
    ];
    const end = new Map([
      ['a', 1],
      ['b', 1],
      ['c', 0],
      ['d', 2],
      ['e', 1],
    ]);
    expect(claimsOf(claims, end)).toEqual({
      withoutUs: 2,
      again: 1,
      claimedAgain: ['b'],
      different: ['a', 'b', 'c', 'd'],
      elsewhere: ['c'],
      nobody: 2,
      unclaimed: ['d', 'e'],
      known: 5,
    });
  });

  it('adds up from what they claim in sum to what is known', () => {
    const ids = ['a', 'b', 'c', 'd', 'e', 'f'];
    const claim = fc.record({ reported, confirmed: fc.subarray(ids) });
    const counts = fc.tuple(...ids.map(() => fc.nat(2)));
    fc.assert(
      fc.property(fc.array(claim, { maxLength: 4 }), counts, (claims, ends) => {
        const end = new Map(ids.map((id, i) => [id, ends[i]!]));
        const sum = claims.reduce((all, one) => all + (one.reported ?? one.confirmed.length), 0);
        const { withoutUs, again, different, elsewhere, nobody, known } = claimsOf(claims, end);
        expect(sum - withoutUs - again).toBe(different.length);
        expect(different.length - elsewhere.length + nobody).toBe(known);
      }),
    );
  });
});

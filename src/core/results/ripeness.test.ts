import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { completenessOf, completenessOfDays, daysUntil, fewestDelays, verdictsOf, type Delay } from './ripeness';

const old = (...days: number[]): Delay[] => days.map((one) => ({ days: one, age: 400 }));
const ten = old(0, 1, 1, 2, 3, 5, 8, 9, 20, 31);

describe('how complete it is by its age', () => {
  it('is the share of delays where all clicks are old enough', () => {
    const share = completenessOf(ten)!;
    expect([share(-1), share(0), share(1), share(9), share(31)].map((one) => Math.round(one * 100))).toEqual([
      0, 10, 30, 80, 100,
    ]);
    expect([daysUntil(share, 0.5), daysUntil(share, 0.9), daysUntil(share, 1)]).toEqual([3, 20, 31]);
  });

  it('is not known of a few', () => {
    expect(completenessOf(ten.slice(0, fewestDelays - 1))).toBeNull();
  });

  it('is not upset by one that came later than others are old enough to', () => {
    const late = [...Array.from({ length: 10 }, () => ({ days: 3, age: 91 })), { days: 96, age: 96 }];
    const share = completenessOf(late)!;
    expect([share(2), share(3), share(96)]).toEqual([0, 1, 1]);
    expect(completenessOf(Array.from({ length: 12 }, (_, i) => ({ days: 3 * i, age: 3 * i + 2 })))).toBeNull();
  });

  it('does not take clicks of yesterday for quick ones', () => {
    // As many clicks came yesterday as on an old day; of those, only what came within a day can be seen.
    const clicks = [...ten, ...ten.filter(({ days }) => days <= 1).map(({ days }) => ({ days, age: 1 }))];
    const plain = clicks.filter(({ days }) => days <= 1).length / clicks.length;
    expect(plain).toBeCloseTo(6 / 13);
    expect(completenessOf(clicks)!(1)).toBeCloseTo(0.3);
  });

  it('never falls with age, and ends at all', () => {
    const delay = fc
      .nat(60)
      .chain((days) => fc.record({ days: fc.constant(days), age: fc.integer({ min: days, max: 90 }) }));
    fc.assert(
      fc.property(fc.array(delay, { minLength: fewestDelays, maxLength: 80 }), (delays) => {
        const share = completenessOf(delays);
        fc.pre(share !== null);
        const all = Array.from({ length: 62 }, (_, day) => share(day));
        expect(all.every((one, i) => one >= 0 && one <= 1 && (i === 0 || one >= all[i - 1]! - 1e-12))).toBe(true);
        expect(all.at(-1)).toBe(1);
        expect(share(daysUntil(share, 0.9))).toBeGreaterThanOrEqual(0.9 - 1e-9);
      }),
    );
  });

  it('is the plain share of delays for any that are old enough', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(40), { minLength: fewestDelays, maxLength: 60 }), (days) => {
        const share = completenessOf(old(...days))!;
        for (const by of [0, 3, 17, 40])
          expect(share(by)).toBeCloseTo(days.filter((one) => one <= by).length / days.length);
      }),
    );
  });
});

test('days together are weighed by their clicks', () => {
  const share = completenessOf(ten)!;
  expect(
    completenessOfDays(share, [
      { age: 31, clicks: 30 },
      { age: 0, clicks: 10 },
    ]),
  ).toBeCloseTo(0.775);
  expect(completenessOfDays(share, [{ age: 3, clicks: 0 }])).toBeNull();
});

describe('more or fewer than usual', () => {
  it('is said of what is ripe alone, against the others that are', () => {
    const ripe = { clicks: 100, came: 25, complete: 1 };
    expect(
      verdictsOf([ripe, ripe, { ...ripe, came: 60 }, { ...ripe, came: 2 }, { ...ripe, came: 1, complete: 0.4 }]),
    ).toEqual(['as usual', 'as usual', 'more', 'fewer', 'too early']);
  });
  it('is not said where there is nothing to hold it against', () => {
    expect(verdictsOf([{ clicks: 10, came: 3, complete: 1 }])).toEqual(['too early']);
    expect(verdictsOf([{ clicks: 10, came: 3, complete: null }])).toEqual(['too early']);
  });
});

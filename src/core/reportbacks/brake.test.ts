import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brakeOf, type DayOfTellings } from './brake';

const day = (count: number, worth = count * 13_500, clickDays = 4): DayOfTellings => ({ count, worth, clickDays });
const usual = [day(6), day(9), day(4), day(7), day(5), day(8)];

describe('what is far outside of what is usual', () => {
  it('is more than three times the busiest day, and more than 20', () => {
    expect(brakeOf(day(27), usual)).toBeNull();
    expect(brakeOf(day(28), usual)).toEqual({ because: 'count', is: 28, usual: 9 });
    expect(brakeOf(day(400), usual)).toMatchObject({ because: 'count', is: 400 });
    const few = Array.from({ length: 20 }, () => day(1));
    expect([brakeOf(day(20), few), brakeOf(day(21), few)?.because]).toEqual([null, 'count']);
  });

  it('is worth more than five times the best day', () => {
    expect(brakeOf(day(5, 5 * 9 * 13_500), usual)).toBeNull();
    expect(brakeOf(day(5, 5 * 9 * 13_500 + 1), usual)).toMatchObject({ because: 'worth', usual: 121_500 });
    // More of them are worth more together: that is no reason.
    expect(
      brakeOf(
        day(20),
        Array.from({ length: 20 }, () => day(1)),
      ),
    ).toBeNull();
    expect(brakeOf(day(1, 99_000_000), usual)).toMatchObject({ because: 'worth', is: 99_000_000 });
  });

  it('is of much older clicks', () => {
    expect(brakeOf(day(10, 1000, 14), usual)).toBeNull();
    expect(brakeOf(day(10, 1000, 60), usual)).toEqual({ because: 'age', is: 60, usual: 4 });
    expect(brakeOf(day(9, 1000, 60), usual)).toBeNull();
  });

  it('is nothing while little is known', () => {
    expect(brakeOf(day(1000), usual.slice(0, 4))).toBeNull();
    expect(
      brakeOf(
        day(1000),
        Array.from({ length: 10 }, () => day(1)),
      ),
    ).toBeNull();
  });

  it('is never a day like one of those before', () => {
    const days = fc.array(fc.tuple(fc.integer({ min: 1, max: 500 }), fc.nat(1e9), fc.nat(90)), { minLength: 1 });
    fc.assert(
      fc.property(days, (all) => {
        const before = all.map(([count, worth, clickDays]) => ({ count, worth, clickDays }));
        for (const one of before) expect(brakeOf(one, before)).toBeNull();
      }),
    );
  });
});

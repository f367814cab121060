import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeWorkingTime, usualHours } from '../working-hours';
import { waits } from './routine';
import { makeDueAfter } from './waits';

const zone = 'Europe/London';
const due = makeDueAfter(usualHours, zone);
const at = (text: string) => Date.parse(text);
const iso = (ms: number) => new Date(ms).toISOString().slice(0, 16);

describe('When a step is due', () => {
  it('is at the same time by the clocks, also over the night on which they are put forward', () => {
    // 28 Mar 2027, one o'clock: clocks are put forward.
    expect(iso(due(at('2027-03-27T12:00Z'), { wait: 'days', amount: 1 }))).toBe('2027-03-28T11:00');
    expect(iso(due(at('2027-03-27T12:00Z'), { wait: 'hours', amount: 24 }))).toBe('2027-03-28T12:00');
  });

  it('leaves out the weekend for working days, and moves into the hours', () => {
    expect(iso(due(at('2027-02-12T10:00Z'), { wait: 'working_days', amount: 2 }))).toBe('2027-02-16T10:00');
    // Friday, half past ten in the evening.
    expect(iso(due(at('2027-02-12T22:30Z'), { wait: 'working_days', amount: 1 }))).toBe('2027-02-15T17:00');
    // Saturday, six in the morning.
    expect(iso(due(at('2027-02-13T06:00Z'), { wait: 'working_days', amount: 1 }))).toBe('2027-02-15T09:00');
  });

  it('counts only hours in which the business is open', () => {
    expect(iso(due(at('2027-02-12T16:00Z'), { wait: 'working_hours', amount: 3 }))).toBe('2027-02-15T11:00');
    expect(iso(due(at('2027-02-13T06:00Z'), { wait: 'working_hours', amount: 8 }))).toBe('2027-02-15T17:00');
  });

  it('does not hang where nobody ever works', () => {
    const never = makeDueAfter({ ...usualHours, days: [] }, zone);
    for (const wait of waits) expect(never(0, { wait, amount: 2 })).toBeGreaterThanOrEqual(0);
  });

  it('agrees with working time, whatever the hours, zone and moment', () => {
    fc.assert(
      fc.property(
        fc.record({
          days: fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1 }),
          from: fc.constantFrom('00:00', '07:30', '09:00'),
          to: fc.constantFrom('12:00', '17:00', '23:30'),
        }),
        fc.constantFrom('Europe/London', 'America/New_York', 'Pacific/Auckland', 'UTC'),
        fc.integer({ min: at('2026-01-01T00:00Z'), max: at('2028-01-01T00:00Z') }),
        fc.integer({ min: 1, max: 90 }),
        (hours, timeZone, from, amount) => {
          const then = makeDueAfter(hours, timeZone)(from, { wait: 'working_hours', amount });
          expect(makeWorkingTime(hours, timeZone)(from, then)).toBeCloseTo(amount * 60, 5);
          expect(makeWorkingTime(hours, timeZone)(from, then - 60_000)).toBeLessThan(amount * 60);
        },
      ),
      { numRuns: 200 },
    );
  });
});

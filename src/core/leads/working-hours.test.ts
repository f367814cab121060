import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeWorkingTime, usualHours } from './working-hours';

const zone = 'Europe/London';
const workingMinutes = makeWorkingTime(usualHours, zone);
const at = (text: string) => Date.parse(text);

describe('working time', () => {
  it('is none in the evening and at the weekend', () => {
    // Friday, 19:00 until Monday, 09:05.
    expect(workingMinutes(at('2027-02-12T19:00:00Z'), at('2027-02-15T09:05:00Z'))).toBe(5);
    expect(workingMinutes(at('2027-02-13T09:00:00Z'), at('2027-02-14T17:00:00Z'))).toBe(0);
  });

  it('is a whole day of eight hours between the same times of two working days', () => {
    expect(workingMinutes(at('2027-02-15T10:00:00Z'), at('2027-02-16T10:00:00Z'))).toBe(480);
  });

  it('goes by the clock on the wall, also over the day on which it is put forward', () => {
    // 28 March 2027 is a Sunday; on Monday nine o'clock there is eight in UTC.
    expect(workingMinutes(at('2027-03-26T16:30:00Z'), at('2027-03-29T08:15:00Z'))).toBe(45);
    const always = { days: [1, 2, 3, 4, 5, 6, 7], from: '00:00', to: '24:00' };
    expect(makeWorkingTime(always, zone)(at('2027-03-28T00:00:00Z'), at('2027-03-28T23:00:00Z'))).toBe(23 * 60);
  });

  it('is none backwards, and adds up over any moment between', () => {
    const moment = fc.integer({ min: at('2027-01-01T00:00:00Z'), max: at('2027-12-31T00:00:00Z') });
    fc.assert(
      fc.property(moment, moment, moment, (...given) => {
        const [one, two, three] = [...given].sort((a, b) => a - b) as [number, number, number];
        const whole = workingMinutes(one, three);
        const parts = workingMinutes(one, two) + workingMinutes(two, three);
        expect(parts).toBeCloseTo(whole, 6);
        expect(workingMinutes(three, one)).toBe(0);
      }),
      { numRuns: 200 },
    );
  });
});

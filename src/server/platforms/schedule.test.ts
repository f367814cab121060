import { expect, it } from 'vitest';
import { nextFile } from './schedule';

const at = (text: string) => Date.parse(text);

it('goes into the file of the full hour, or of the day in the account’s zone', () => {
  expect(nextFile(undefined, at('2027-02-15T17:20:00Z'), 'UTC')).toBe(at('2027-02-15T17:20:00Z'));
  const hourly = { every: 'hour', at: '06:00' } as const;
  expect(nextFile(hourly, at('2027-02-15T17:20:00Z'), 'UTC')).toBe(at('2027-02-15T18:00:00Z'));
  expect(nextFile(hourly, at('2027-02-15T17:00:00Z'), 'UTC')).toBe(at('2027-02-15T17:00:00Z'));
  const daily = { every: 'day', at: '06:00' } as const;
  expect(nextFile(daily, at('2027-02-15T05:59:00Z'), 'UTC')).toBe(at('2027-02-15T06:00:00Z'));
  expect(nextFile(daily, at('2027-02-15T06:00:01Z'), 'UTC')).toBe(at('2027-02-16T06:00:00Z'));
  expect(nextFile(daily, at('2027-02-15T11:30:00Z'), 'America/New_York')).toBe(at('2027-02-16T11:00:00Z'));
});

it('on the days on which clocks are put on or back there is one too', () => {
  const daily = { every: 'day', at: '06:00' } as const;
  expect(nextFile(daily, at('2027-03-27T20:00:00Z'), 'Europe/London')).toBe(at('2027-03-28T05:00:00Z'));
  expect(nextFile(daily, at('2027-10-30T20:00:00Z'), 'Europe/London')).toBe(at('2027-10-31T06:00:00Z'));
  expect(nextFile({ every: 'day', at: '23:30' }, at('2027-10-30T22:45:00Z'), 'Europe/London')).toBe(
    at('2027-10-31T23:30:00Z'),
  );
});

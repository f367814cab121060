import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayIn, instantIn } from './days';

const zones = ['Europe/London', 'Europe/Amsterdam', 'Asia/Kathmandu', 'Australia/Lord_Howe', 'Pacific/Apia', 'UTC'];

it('a day is the one that the zone’s clocks show, also where they change', () => {
  const instants = fc.integer({ min: Date.UTC(2026, 0, 1), max: Date.UTC(2028, 0, 1) });
  fc.assert(
    fc.property(fc.constantFrom(...zones), instants, (zone, at) => {
      expect(dayIn(zone, at)).toBe(format(new TZDate(at, zone), 'yyyy-MM-dd'));
    }),
  );
  const night = Date.UTC(2027, 2, 28, 0, 59, 59, 999);
  expect([dayIn('Europe/London', night), dayIn('Europe/London', night - 3_600_000)]).toEqual([
    '2027-03-28',
    '2027-03-27',
  ]);
});

describe('a time without its zone', () => {
  it.each([
    ['2027-02-15 17:00', '2027-02-15T17:00:00.000Z'],
    ['2027-07-15T17:00:30', '2027-07-15T16:00:30.000Z'],
    ['15/02/2027 17:00', '2027-02-15T17:00:00.000Z'],
    ['5.2.2027 7:05', '2027-02-05T07:05:00.000Z'],
  ])('%s is meant as the clocks of the business show it', (text, instant) => {
    expect(new Date(instantIn('Europe/London', text)!).toISOString()).toBe(instant);
  });

  it.each(['', 'soon', '2027-02-30 10:00', '2027-13-01 10:00', '2027-02-15', '2027-02-15 25:00', '15 Feb 2027 17:00'])(
    '“%s” is none',
    (text) => {
      expect(instantIn('Europe/London', text)).toBeNull();
    },
  );
});

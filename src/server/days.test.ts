import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { dayIn } from './days';

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

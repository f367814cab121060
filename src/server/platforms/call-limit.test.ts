import { afterEach, expect, it } from 'vitest';
import { setClock } from '../clock';
import { makeCallLimit } from './call-limit';

const noon = Date.UTC(2027, 1, 1, 12);
afterEach(() => setClock(null));

/** The clock stands nearly still while the calls of one test are made. */
const at = (ms: number) => setClock(noon + ms);

it('as many calls as the platform takes a minute may be made, each account for itself', () => {
  const limit = makeCallLimit();
  at(0);
  expect([1, 2, 3].map(() => limit.take('a', 3))).toEqual([0, 0, 0]);
  const wait = limit.take('a', 3);
  expect(wait).toBeGreaterThan(59_000);
  expect(wait).toBeLessThanOrEqual(60_000);
  expect(limit.take('b', 3)).toBe(0);
});

it('one more may be made once the first of them is a minute ago', () => {
  const limit = makeCallLimit();
  at(0);
  limit.take('a', 2);
  at(40_000);
  limit.take('a', 2);
  expect(limit.take('a', 2)).toBeLessThanOrEqual(20_000);
  at(61_000);
  expect(limit.take('a', 2)).toBe(0);
  // The one of the fortieth second still counts.
  expect(limit.take('a', 2)).toBeGreaterThan(0);
});

it('a clock that was put back holds nobody up for what was called ahead of it', () => {
  const limit = makeCallLimit();
  at(3_600_000);
  limit.take('a', 1);
  at(0);
  expect(limit.take('a', 1)).toBe(0);
});

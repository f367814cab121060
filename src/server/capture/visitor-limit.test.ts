import { expect, it } from 'vitest';
import { makeVisitorLimit } from './visitor-limit';

const noon = Date.UTC(2027, 1, 1, 12);

it('takes so many hits of a visitor a day, keeps as many apart, and refuses the rest', () => {
  const count = makeVisitorLimit(3);
  const all = Array.from({ length: 8 }, () => count('b', 'v', noon));
  expect(all).toEqual([...Array<string>(3).fill('taken'), ...Array<string>(3).fill('apart'), 'refused', 'refused']);
  expect([count('b', 'w', noon), count('c', 'v', noon)]).toEqual(['taken', 'taken']);
  expect(count('b', 'v', noon + 86_400_000)).toBe('taken');
  // A hit that comes late, by a clock that was set back, does not begin the day anew.
  expect([1, 2, 3].map(() => count('b', 'v', noon))).toEqual(['taken', 'taken', 'apart']);
});

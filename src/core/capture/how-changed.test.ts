import { describe, expect, it } from 'vitest';
import { howChanged } from './how-changed';

describe('how a value changed', () => {
  it.each([
    ['uk-27q1-fleet-winterproof', 'uk-27q1-fleet-wint', 'cut at 18 characters'],
    ['Qs-A', 'qs-a', 'upper and lower case changed'],
    ['a b', 'a%20b', 'encoded differently'],
    ['a', 'z', 'another value'],
  ])('%s → %s: %s', (before, now, how) => expect(howChanged(before, now)).toBe(how));
});

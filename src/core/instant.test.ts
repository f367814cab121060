import { describe, expect, it } from 'vitest';
import { readInstant, readMoment } from './instant';

describe('a time that somebody sends', () => {
  it.each([
    ['2027-02-15T09:42:00+01:00', Date.UTC(2027, 1, 15, 8, 42)],
    ['1802684520', 1_802_684_520_000],
    ['1802684520000', 1_802_684_520_000],
    ['soon', null],
    ['', null],
  ])('%j is the instant %s', (text, at) => expect(readInstant(text)).toBe(at));

  it.each([
    ['2027-02-15T09:42:00+01:00', Date.UTC(2027, 1, 15, 8, 42)],
    ['2027-02-15T09:42:00Z', Date.UTC(2027, 1, 15, 9, 42)],
    ['1802684520', 1_802_684_520_000],
    ['2027-02-15 09:42', 1],
    ['soon', 1],
  ])('%j is read by its zone where it says one, else as local', (text, at) =>
    expect(readMoment(text, () => 1)).toBe(at),
  );
});

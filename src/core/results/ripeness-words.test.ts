import { describe, expect, it, test } from 'vitest';
import { sayPieces } from '../rules/says';
import type { LimitView, RipeningWeek } from './ripeness-view';
import { limitWords, ripenessAddress, ripenessPieces, ripenessSentence, ripeWords } from './ripeness-words';

const week = (visits: number, complete: number | null): RipeningWeek => ({
  ...{ week: '2027-02-01', visits, came: 1, complete, verdict: 'as usual' },
});
const said = (half: number | null, nine: number | null, weeks: RipeningWeek[] = [], count = 40) =>
  ripenessSentence('FLT-QUAL', { count, half, nine }, weeks);

describe('the opening sentence', () => {
  it('says how long half and nine in ten take, and how complete the last weeks are, by their visits', () => {
    expect(said(9, 31, [week(100, 0.2), week(300, 0.8), week(500, 0.95)])).toEqual({
      title: 'Half of FLT-QUAL come within 9 days, nine in ten within 31.',
      under: 'What clicks of the last 2 weeks bring is about 65 % complete.',
    });
    expect(said(0, 0, [week(100, 1)])).toEqual({
      title: 'Nine in ten FLT-QUAL come within a day.',
      under: 'What clicks of the last weeks bring has come.',
    });
  });
  it('says where too few are known', () => {
    expect(said(null, null, [], 4).under).toBe('4 came so far.');
    expect(said(null, null, [], 0)).toEqual({
      title: 'Too few FLT-QUAL have come to say how long they take.',
      under: 'None came from a click that is known.',
    });
  });
});

test('a limit says how many come after it, and which stage to count as well', () => {
  const limit = (change: Partial<LimitView>) =>
    limitWords({ ...{ key: 'a', words: 'w', days: 21, late: 12, of: 90, earlier: null, isStaged: true }, ...change });
  expect(limit({ earlier: { stage: 'Spoken', count: 9 } })).toEqual({
    text: '12 of 90 came later.',
    advice: 'Count “Spoken” as well: 9 of them had reached it within 21 days.',
  });
  expect(limit({ earlier: { stage: 'Spoken', count: 12 } }).advice).toContain('all 12 had reached it');
  expect(limit({ late: 1, earlier: { stage: 'Spoken', count: 1 } }).advice).toContain('that one had reached it');
  expect(limit({}).advice).toBe('No earlier stage came in time.');
  expect(limit({ isStaged: false }).advice).toBe('');
  expect(limit({ late: 0 })).toEqual({ text: 'None of 90 came later.', advice: '' });
  expect(limit({ late: 0, of: 0 }).text).toBe('No click is old enough yet to say.');
});

test('what is asked for reads as one sentence, and stands in an address', () => {
  const asked = { outcome: 'FLT-QUAL', by: 'campaign' } as const;
  const pieces = ripenessPieces({ outcomes: [{ code: 'FLT-QUAL', words: 'Fleet assessed' }] });
  expect(sayPieces(pieces, asked)).toBe('How long after its click Fleet assessed (FLT-QUAL) comes, by campaign.');
  expect(ripenessAddress(asked)).toBe('outcome=FLT-QUAL&by=campaign');
});

test('says how complete what clicks of some days bring is', () => {
  expect(ripeWords('FLT-QUAL', { half: 9, nine: 31, complete: 0.857 })).toBe(
    'Half of FLT-QUAL come within 9 days of the click, nine in ten within 31. Of what these days’ clicks will bring, about 86 % has come.',
  );
});

import { describe, expect, it } from 'vitest';
import { safePath } from './frame/safe-path';
import { browserWords } from './text/browser';
import { setDrawnAt } from './text/drawn';
import { dayWords, exactTime, fromLocalField, shortTime, toLocalField } from './text/time';

describe('where to go on after signing in', () => {
  it.each([
    ['/b/larkmoor?range=week', '/b/larkmoor?range=week'],
    ['//evil.example', '/'],
    ['/\\evil.example', '/'],
    ['https://evil.example', '/'],
    ['', '/'],
    [null, '/'],
  ])('%s → %s', (given, to) => expect(safePath(given)).toBe(to));
});

describe('times', () => {
  it('stand in the business’s time zone, summer time included', () => {
    expect(shortTime('2027-07-01T09:05:00Z', 'Europe/London')).toBe('1 Jul, 10:05');
    expect(exactTime('2027-01-14T23:30:10Z', 'Europe/Amsterdam')).toMatch(/^15 January 2027, 00:30:10 /);
    expect(dayWords('2027-02-15')).toBe('15 Feb');
  });
  it('say their year where it is another than the page’s', () => {
    setDrawnAt(Date.parse('2027-01-01T00:30:00Z'));
    expect(shortTime('2026-12-31T23:30:00Z', 'Europe/London')).toBe('31 Dec 2026, 23:30');
    // There the page is drawn in 2026 too.
    expect(shortTime('2026-12-31T23:30:00Z', 'America/New_York')).toBe('31 Dec, 18:30');
    expect(dayWords('2026-12-31')).toBe('31 Dec 2026');
    setDrawnAt(NaN);
  });
  it.each([
    ['2027-01-14T18:00:00.000Z', 'Europe/London', '2027-01-14T18:00'],
    ['2027-07-14T18:00:00.000Z', 'Europe/London', '2027-07-14T19:00'],
    ['2027-07-14T18:00:00.000Z', 'America/New_York', '2027-07-14T14:00'],
    ['2027-12-31T23:30:00.000Z', 'Europe/Amsterdam', '2028-01-01T00:30'],
  ])('%s in %s is written and read as %s', (iso, zone, field) => {
    expect(toLocalField(iso, zone)).toBe(field);
    expect(fromLocalField(field, zone)).toBe(iso);
  });
  it('that are none are none', () => expect(fromLocalField('tomorrow', 'Europe/London')).toBe(''));
});

it('names a browser as a person would', () => {
  expect(browserWords('Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0')).toBe(
    'Firefox 128 on Linux',
  );
  expect(browserWords('')).toBe('a program that gave no name');
});

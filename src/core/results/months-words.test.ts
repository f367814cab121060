import { describe, expect, it, test } from 'vitest';
import { sayPieces } from '../rules/says';
import { monthsQuerySchema, type MonthsQuery, type PeriodView } from './months-view';
import { monthsAddress, monthsPieces, monthsSentence } from './months-words';

const asked: MonthsQuery = { count: 'leads', each: 'month', months: 6, credit: 'last' };
const period = (key: string, change: Partial<PeriodView> = {}): PeriodView => ({
  ...{ key, firstDay: `${key}-01`, lastDay: `${key}-28`, closed: null, isOver: true, since: null },
  ...change,
});
const said = (periods: PeriodView[], figures: (number | null)[], change: Partial<MonthsQuery> = {}) =>
  monthsSentence(
    { asked: { ...asked, ...change }, periods, sums: { figures, total: null }, currency: 'GBP' },
    (key) => `[${key}]`,
  );

describe('the opening sentence', () => {
  it('says what the newest period that is over brought, against the one before', () => {
    const months = [period('2026-12'), period('2027-01'), period('2027-02', { isOver: false })];
    expect(said(months, [20_000, 31_000, 4000])).toEqual({
      title: '31 leads in [2027-01], +55 % on the month before.',
      under: 'No month is closed yet. Once one is, its figures stay, and later changes are shown apart.',
    });
    const closed = period('2027-01', { closed: { by: 'Ines', at: '2027-02-01T09:00:00Z' } });
    expect(said([closed], [1000])).toEqual({
      title: '1 lead in [2027-01].',
      under: '1 month is closed: its figures stay, and later changes are shown apart.',
    });
  });
  it('says where none is over yet', () => {
    expect(said([period('2027-02', { isOver: false })], [3000]).title).toBe(
      'Nothing was counted in a month that is over.',
    );
    expect(said([period('2027-Q1', { isOver: false })], [3000], { each: 'quarter' }).title).toContain('a quarter');
  });
});

test('what is asked for reads as one sentence, and stands in an address', () => {
  const pieces = monthsPieces({ outcomes: [], seesMoney: false });
  expect(sayPieces(pieces, asked)).toBe(
    'Count leads of each month of the last 6 months, by funnel stage, then channel, credit to the last touch.',
  );
  const read = (query: MonthsQuery) =>
    monthsQuerySchema.parse(Object.fromEntries(new URLSearchParams(monthsAddress(query))));
  expect(read({ ...asked, each: 'quarter', months: 12 })).toEqual({ ...asked, each: 'quarter', months: 12 });
  expect([read({ ...asked, months: 99 }).months, read({ ...asked, months: NaN }).months]).toEqual([24, 1]);
});

import { expect, it } from 'vitest';
import type { FigureRowView, FiguresQuery } from '../../core/results/figures-view';
import { bucketOf, labelsOf, sorted } from './figures-order';

const row = (text: string, ...figures: (number | null)[]): FigureRowView => ({
  ...{ id: text, row: `["${text}"]`, cells: [{ text, isValue: true }], figures, before: null, measured: null },
});
const order = (rows: FigureRowView[], query: Partial<FiguresQuery>, by: 'source' | 'week' = 'source') =>
  sorted(
    rows,
    { sort: '', descending: 'yes', find: '', ...query } as FiguresQuery,
    ['leads', 'cost_per_lead'],
    [by],
  ).map(({ id }) => id);

it('stands by the first measure, largest first; what cannot be said is last in either direction', () => {
  const rows = [row('letter', 1000, 12), row('fair', 3000, null), row('partner', 3000, 4)];
  expect(order(rows, {})).toEqual(['fair', 'partner', 'letter']);
  expect(order(rows, { sort: 'cost_per_lead' })).toEqual(['letter', 'partner', 'fair']);
  expect(order(rows, { sort: 'cost_per_lead', descending: 'no' })).toEqual(['partner', 'letter', 'fair']);
});

it('stands by its values as people count, and times in their order where nothing is asked for', () => {
  const rows = [row('campaign-10', 1), row('campaign-9', 2)];
  expect(order(rows, { sort: 'source', descending: 'no' })).toEqual(['campaign-9', 'campaign-10']);
  const weeks = [row('2027-02-08', 9), row('2027-02-01', 1)];
  expect(order(weeks, {}, 'week')).toEqual(['2027-02-01', '2027-02-08']);
  expect(order(weeks, { sort: 'leads' }, 'week')).toEqual(['2027-02-08', '2027-02-01']);
});

it('finds a value in any letter case', () => {
  expect(order([row('Letter', 1), row('fair', 2)], { find: 'LETT' })).toEqual(['Letter']);
});

it('draws days of a month, weeks of half a year and months of a year, those without anything too', () => {
  expect(bucketOf({ firstDay: '2027-01-19', lastDay: '2027-02-15' })).toBe('day');
  expect(bucketOf({ firstDay: '2026-11-16', lastDay: '2027-02-15' })).toBe('week');
  expect(bucketOf({ firstDay: '2026-01-16', lastDay: '2027-02-15' })).toBe('month');
  const at = (...cells: string[]) => cells.map((cell) => ({ cells: ['x', cell], values: [1] }));
  expect(labelsOf(at('2027-02-13', '2027-02-15'), '2027-02-15', 'day')).toEqual([
    '2027-02-13',
    '2027-02-14',
    '2027-02-15',
  ]);
  expect(labelsOf(at('2027-01-25', '2027-02-08'), '2027-02-15', 'week')).toHaveLength(4);
  expect(labelsOf(at('2026-11', '2027-01'), '2027-02-15', 'month')).toEqual([
    '2026-11',
    '2026-12',
    '2027-01',
    '2027-02',
  ]);
  expect(labelsOf([], '2027-02-15', 'day')).toEqual([]);
});

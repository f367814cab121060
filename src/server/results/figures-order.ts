import { addMonths, differenceInCalendarDays, format, parseISO } from 'date-fns';
import { isTime, type Dimension } from '../../core/results/dimensions';
import type { FigureRow } from '../../core/results/figures';
import type { FigureRowView, FiguresQuery } from '../../core/results/figures-view';
import type { Counted } from '../../core/results/measures';
import type { DaySpan } from '../strands/range';
import { dayAfter } from './asked';

/* In which order the rows of a table stand, and by what its course is drawn. */

/** By what a course over some days is drawn: so that it has no more than some forty points. */
export function bucketOf({ firstDay, lastDay }: DaySpan): 'day' | 'week' | 'month' {
  const length = differenceInCalendarDays(parseISO(lastDay), parseISO(firstDay)) + 1;
  return length <= 40 ? 'day' : length <= 280 ? 'week' : 'month';
}

/** Every day, week or month from the first in which anything was counted, also those without anything. */
export function labelsOf(rows: readonly FigureRow[], lastDay: string, each: 'day' | 'week' | 'month'): string[] {
  const first = rows.map(({ cells }) => cells.at(-1)!).sort()[0];
  if (first === undefined) return [];
  const labels: string[] = [];
  for (let day = each === 'month' ? `${first}-01` : first; day <= lastDay; day = next(day, each))
    labels.push(each === 'month' ? day.slice(0, 7) : day);
  return labels;
}

const next = (day: string, each: 'day' | 'week' | 'month'): string =>
  each === 'month' ? format(addMonths(parseISO(day), 1), 'yyyy-MM-dd') : dayAfter(day, each === 'week' ? 7 : 1);

/** In the order asked for: by a measure or by what it is broken down by; times in their order where nothing is asked. */
export function sorted(
  rows: FigureRowView[],
  { sort, descending, find }: FiguresQuery,
  counted: readonly Counted[],
  by: readonly Dimension[],
): FigureRowView[] {
  const wanted = find.toLowerCase();
  const found = wanted
    ? rows.filter(({ cells }) => cells.some(({ text }) => text.toLowerCase().includes(wanted)))
    : rows;
  const cell = by.indexOf(sort as Dimension);
  const isByTime = sort === '' && isTime(by[0]!);
  const at = cell >= 0 ? cell : isByTime ? 0 : -1;
  const measure = Math.max(0, counted.indexOf(sort as Counted));
  const sign = isByTime || descending === 'no' ? 1 : -1;
  const textOf = ({ cells }: FigureRowView) => cells.map(({ text }) => text).join('\n');
  return found.sort((a, b) => {
    if (at >= 0) {
      const order = a.cells[at]!.text.localeCompare(b.cells[at]!.text, 'en', { numeric: true });
      if (order !== 0) return sign * order;
    } else {
      const [one, other] = [a.figures[measure] ?? null, b.figures[measure] ?? null];
      if (one === null || other === null) {
        if (one !== other) return one === null ? 1 : -1;
      } else if (one !== other) return sign * (one - other);
    }
    return textOf(a) < textOf(b) ? -1 : 1;
  });
}

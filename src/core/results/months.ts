import type { FigureRow } from './figures';
import { figureOf, neededFor, type Counted, type Measure } from './measures';

/* Months and quarters by funnel stage and channel. What was kept of a month when it was closed stands, whatever came later. */

/** Figures of a month by stage and channel, as they were when it was closed: `rows[i].values` in the order of `measures`. */
export interface KeptMonth {
  measures: Measure[];
  rows: FigureRow[];
}

/** One month: what is counted of it now, by stage and channel, and what was kept of it where it is closed. */
export interface MonthFigures {
  month: string;
  /** Values in the order of what is needed for what is counted. */
  now: readonly FigureRow[];
  kept: KeptMonth | null;
}

/** A line of the table: a figure of each period, and of all of them together. */
export interface MonthLine {
  figures: (number | null)[];
  total: number | null;
}
export interface MonthsTable {
  stages: (MonthLine & { stage: string; channels: (MonthLine & { channel: string })[] })[];
  sums: MonthLine;
  /** How much more (or less) is counted now than was kept, of each period; null where nothing of it is closed, or of a ratio. */
  since: (number | null)[];
}

/**
 * The table of some periods, each of one month or of several. A closed month counts as it was kept, as far as that was kept.
 * Visitors are counted once in each month.
 */
export function monthsTable(counted: Counted, periods: readonly (readonly MonthFigures[])[]): MonthsTable {
  const needed = neededFor([counted]);
  const valuesOf = (month: MonthFigures, isKept: boolean): readonly FigureRow[] => {
    const { kept } = month;
    if (!isKept || kept === null || !needed.every((one) => kept.measures.includes(one))) return month.now;
    return kept.rows.map(({ cells, values }) => ({
      cells,
      values: needed.map((one) => values[kept.measures.indexOf(one)] ?? 0),
    }));
  };
  // What was kept has a row wherever anything at all was counted.
  const isSome = ({ values }: FigureRow) => values.some((value) => value !== 0);
  const shown = periods.map((months) => months.flatMap((month) => valuesOf(month, true).filter(isSome)));
  const figure = (rows: readonly FigureRow[]): number | null =>
    figureOf(counted, (measure) => rows.reduce((sum, { values }) => sum + values[needed.indexOf(measure)]!, 0));
  const line = (isOf: (row: FigureRow) => boolean): MonthLine => ({
    figures: shown.map((rows) => figure(rows.filter(isOf))),
    total: figure(shown.flat().filter(isOf)),
  });
  const all = shown.flat();
  const bySize = <Line extends MonthLine>(lines: Line[]) => lines.sort((a, b) => (b.total ?? 0) - (a.total ?? 0));
  const cellsAt = (at: number, rows: readonly FigureRow[]) => [...new Set(rows.map(({ cells }) => cells[at]!))].sort();
  return {
    stages: bySize(
      cellsAt(0, all).map((stage) => {
        const own = all.filter(({ cells }) => cells[0] === stage);
        return {
          stage,
          ...line(({ cells }) => cells[0] === stage),
          channels: bySize(
            cellsAt(1, own).map((channel) => ({
              channel,
              ...line(({ cells }) => cells[0] === stage && cells[1] === channel),
            })),
          ),
        };
      }),
    ),
    sums: line(() => true),
    since: periods.map((months) => {
      if (needed.length !== 1 || months.every(({ kept }) => kept === null)) return null;
      const sum = (isKept: boolean) => figure(months.flatMap((month) => valuesOf(month, isKept))) ?? 0;
      return sum(false) - sum(true);
    }),
  };
}

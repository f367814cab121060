import { weighTouches, type PathTouch } from './credit';
import { cellOf, isTime, type Dimension, type Origin, type Reading, type TouchValues } from './dimensions';
import { thousandths, type Measure } from './measures';
import type { CreditModel } from './schema';
import { shareOut } from './share-out';

/** A touch on the way to something that is credited. */
export interface CreditedTouch extends PathTouch {
  values: TouchValues;
}

/** An enquiry or an outcome, with the touches of its person. */
export interface CountedSubject {
  id: string;
  /** The business's day on which it is counted. */
  day: string;
  /** When it happened or, of a stage or deal, when the enquiry came in (ms): no later touch is credited. */
  until: number;
  touches: readonly CreditedTouch[];
  /** Where it stands, where that is not the touches that led to it; null where these are credited. */
  place: Origin | null;
  /** How often it counts, each once. */
  counts: readonly Measure[];
  /** What it brought, in minor units of the business's currency. */
  amounts: Partial<Record<Measure, number>>;
}

/** Visits alike: of one day and one origin. */
export interface CountedVisits {
  day: string;
  origin: Origin;
  visits: number;
  /** Of those, the first ones of their browsers in the days that are counted. */
  visitors: number;
}

/** One row of figures: its cells, and each measure. */
export interface FigureRow {
  cells: string[];
  values: number[];
}

/** Adds up measures by up to three dimensions. */
export function makeFigures(counted: readonly Measure[], by: readonly Dimension[], reading: Reading) {
  const rows = new Map<string, FigureRow>();
  /** Cells of the same values on the same day are read once; where no time is asked for, of the same values. */
  const known = new Map<string, Map<Origin, FigureRow>>();
  const hasTime = by.some(isTime);
  const place = new Map(counted.map((measure, i) => [measure, i]));

  function rowOf(origin: Origin, day: string): FigureRow {
    const key = hasTime ? day : '';
    let ofDay = known.get(key);
    if (!ofDay) known.set(key, (ofDay = new Map()));
    let row = ofDay.get(origin);
    if (!row) ofDay.set(origin, (row = readRow(origin, day)));
    return row;
  }

  function readRow(origin: Origin, day: string): FigureRow {
    const cells = by.map((dimension) => cellOf(dimension, origin, day, reading));
    const key = cells.join('\n');
    const row = rows.get(key) ?? { cells, values: counted.map(() => 0) };
    rows.set(key, row);
    return row;
  }

  function add(row: FigureRow, measure: Measure, amount: number): void {
    const at = place.get(measure);
    if (at !== undefined) row.values[at]! += amount;
  }

  return {
    /** Visits stand where they came from themselves, whatever is credited. */
    addVisits({ day, origin, visits, visitors }: CountedVisits): void {
      const row = rowOf(origin, day);
      add(row, 'visits', visits);
      add(row, 'visitors', visitors);
    },

    /** What an ad cost, the clicks that are reported of it, or what landed by it, where it stands itself. */
    addOf(measure: Measure, origin: Origin, day: string, amount: number): void {
      add(rowOf(origin, day), measure, amount);
    },

    /** What something counts for and brought is shared out to the touches that led to it; without any it is *not known*. */
    addSubject(subject: CountedSubject, model: CreditModel): void {
      for (const { origin, measure, amount } of creditsOf(subject, model))
        add(rowOf(origin, subject.day), measure, amount);
    },

    rows: (): FigureRow[] => [...rows.values()],
  };
}

interface CreditedAmount {
  origin: Origin;
  measure: Measure;
  amount: number;
}

/** What each measure of a subject adds where. */
export function creditsOf(
  { until, touches, place, counts, amounts }: CountedSubject,
  model: CreditModel,
): CreditedAmount[] {
  const credits: CreditedAmount[] = [];
  const { path, weights } = place === null ? weighTouches(touches, until, model) : nowhere;
  const share = (measure: Measure, whole: number) => {
    if (path.length === 0) credits.push({ origin: place ?? 'not known', measure, amount: whole });
    else
      shareOut(whole, weights).forEach((amount, i) => {
        if (amount !== 0) credits.push({ origin: path[i]!.values, measure, amount });
      });
  };
  for (const measure of counts) share(measure, thousandths);
  for (const [measure, amount] of Object.entries(amounts) as [Measure, number][]) share(measure, amount);
  return credits;
}
const nowhere: { path: CreditedTouch[]; weights: number[] } = { path: [], weights: [] };

/** A subject behind one figure: what of it is credited there, and what all of it is. */
export interface BehindFigure<Subject> {
  subject: Subject;
  credited: number;
  whole: number;
}

/**
 * The subjects behind one figure of a table, which they add up to.
 *
 * @param cells of its row; null for all rows together
 */
export function subjectsBehind<Subject extends CountedSubject>(
  subjects: readonly Subject[],
  by: readonly Dimension[],
  cells: readonly string[] | null,
  measure: Measure,
  model: CreditModel,
  reading: Reading,
): BehindFigure<Subject>[] {
  const isOf = (origin: Origin, day: string) =>
    cells === null || by.every((dimension, i) => cellOf(dimension, origin, day, reading) === cells[i]);
  return subjects.flatMap((subject) => {
    const credits = creditsOf(subject, model).filter((one) => one.measure === measure);
    const own = credits.filter(({ origin }) => isOf(origin, subject.day));
    const sum = (all: typeof credits) => all.reduce((total, { amount }) => total + amount, 0);
    return own.length > 0 ? [{ subject, credited: sum(own), whole: sum(credits) }] : [];
  });
}

/** The sums of every measure over all rows. */
export const totalOf = (rows: readonly FigureRow[], width: number): number[] =>
  Array.from({ length: width }, (_, i) => rows.reduce((sum, { values }) => sum + values[i]!, 0));

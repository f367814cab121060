import { z } from 'zod';
import type { Sentence } from '../strands';
import type { CellView } from './dimensions';
import { isCounted } from './figures-view';
import type { MonthLine } from './months';
import type { Counted } from './measures';

export const monthCredits = ['last', 'first'] as const;
export type MonthCredit = (typeof monthCredits)[number];
/** Periods beside each other at most. */
export const mostMonths = 24;

const month = z.string().regex(/^\d{4}-(0[1-9]|1[0-2])$/, 'must be a month, such as 2027-01');

export const monthsQuerySchema = z.object({
  count: z.string().refine(isCounted).catch('leads'),
  each: z.enum(['month', 'quarter']).catch('month'),
  /** How many months are shown, this one among them. */
  months: z.coerce.number().int().min(1).max(mostMonths).catch(6),
  credit: z.enum(monthCredits).catch('last'),
});
export type MonthsQuery = z.output<typeof monthsQuerySchema> & { count: Counted };

/** A month that is closed, or opened again. */
export const monthClosedSchema = z.strictObject({ month, closed: z.boolean() });
export type MonthClosed = z.infer<typeof monthClosedSchema>;

export interface PeriodView {
  /** `2027-01`, or `2027-Q1`. */
  key: string;
  /** Its days, as far as they are over. */
  firstDay: string;
  lastDay: string;
  /** Who closed it and when; null while it is open. Of quarters: once all of its months are closed. */
  closed: { by: string; at: string } | null;
  /** Whether its last day is over, so that it can be closed. */
  isOver: boolean;
  /** How much more or less is counted now than when it was closed; null while it is open. */
  since: number | null;
}
export interface StageLine extends MonthLine {
  cell: string;
  stage: CellView;
  channels: (MonthLine & { cell: string; channel: CellView })[];
}

export interface MonthsView {
  sentence: Sentence;
  asked: MonthsQuery;
  outcomes: { code: string; words: string }[];
  /** The oldest first. */
  periods: PeriodView[];
  stages: StageLine[];
  sums: MonthLine;
  seesMoney: boolean;
  mayChange: boolean;
  currency: string;
  timeZone: string;
}

import { z } from 'zod';
import type { Sentence } from '../strands';
import { daysQuery, inKnownDays, type DaysView } from './days-query';
import { dimensions, type CellView, type Dimension } from './dimensions';
import type { DayNote, SavedView } from './kept';
import { jsonText } from './json-text';
import { listOf } from './list-of';
import { measures, ratios, type Counted } from './measures';
import type { Progress } from './progress';

const code = /^outcome\.[A-Z][A-Z0-9-]{2,19}$/;
export const isCounted = (text: string): text is Counted =>
  ([...measures, ...ratios] as readonly string[]).includes(text) || code.test(text);
const isDimension = (text: string): text is Dimension => (dimensions as readonly string[]).includes(text);

/** Measures beside each other, and dimensions below each other, at most. */
export const mostCounted = 6;
export const mostDimensions = 3;
const usualCounted: Counted[] = ['visits', 'leads', 'qualified', 'won', 'profit'];

export const compares = ['before', 'year', 'none'] as const;
export type Compare = (typeof compares)[number];

/** What figures are asked for, as it stands in an address. */
export const figuresQuerySchema = z
  .object({
    count: listOf(isCounted, mostCounted, usualCounted),
    by: listOf(isDimension, mostDimensions, ['channel']),
    /** To which touches, as `creditText` writes it. */
    credit: z.string().max(40).catch('last'),
    ...daysQuery,
    /** The same number of days right before, the same days of the year before, or nothing. */
    against: z.enum(compares).catch('before'),
    segment: z.uuid().or(z.literal('')).catch(''),
    find: z.string().trim().max(100).catch(''),
    /** What is counted or broken down by; the first that is counted where it is neither. */
    sort: z.string().max(40).catch(''),
    descending: z.enum(['yes', 'no']).catch('yes'),
    page: z.coerce.number().int().min(1).max(100_000).catch(1),
  })
  .transform(inKnownDays);
export type FiguresQuery = z.output<typeof figuresQuerySchema>;

/** Which of its figures is opened: a measure, of a row by its cells; of all rows together without one. */
export const behindQuerySchema = z
  .object({
    of: z.string().refine(isCounted).catch('leads'),
    row: jsonText(z.array(z.string())).nullable().catch(null),
  })
  .transform(({ of, row }) => ({ of: of as Counted, row }));
export type BehindQuery = z.output<typeof behindQuerySchema>;

/** One of those behind a figure. */
export interface BehindRow {
  id: string;
  /** Where it opens within the business; null where nothing is to be opened. */
  path: string | null;
  name: string;
  /** What it is counted for: "enquired", or an outcome. */
  what: string;
  at: string;
  credited: number;
  whole: number;
  touches: number;
}

export interface BehindView {
  sentence: Sentence;
  of: Counted;
  rows: BehindRow[];
  total: number;
  page: number;
  pageSize: number;
  currency: string;
  timeZone: string;
}

export interface FigureRowView {
  id: string;
  /** Its cells as an address names them. */
  row: string;
  cells: CellView[];
  /** Of what is counted, each as `kindOf` says; null where a ratio has nothing to divide by, or where it is not counted. */
  figures: (number | null)[];
  /** The same of the days that it is held against; null where it is held against none. */
  before: (number | null)[] | null;
  /** How many of the clicks that platforms report landed, beside a ratio of cost; null where none are reported or it is not asked for. */
  measured: number | null;
}

/** The first measure over the days, of the largest groups and of all others. */
export interface FiguresChart {
  /** Days, Mondays or months. */
  labels: string[];
  each: 'day' | 'week' | 'month';
  series: { words: string; values: (number | null)[] }[];
}

export interface FiguresView {
  sentence: Sentence;
  /** How far they are, where they are still being worked out: then there are no rows. Null once they are there. */
  working: Progress | null;
  counted: Counted[];
  by: Dimension[];
  credit: string;
  against: Compare;
  segment: string;
  segments: { id: string; name: string }[];
  /** Outcomes that can be counted. */
  outcomes: { code: string; words: string }[];
  seesMoney: boolean;
  range: DaysView;
  /** The days that it is held against; null for none. */
  before: { firstDay: string; lastDay: string } | null;
  rows: FigureRowView[];
  total: number;
  page: number;
  pageSize: number;
  sums: Pick<FigureRowView, 'figures' | 'before' | 'measured'>;
  /** The largest figure of each measure in any row, which the longest bar stands for. */
  largest: number[];
  chart: FiguresChart;
  /** What was noted of these days. */
  dayNotes: DayNote[];
  /** Figures that are kept under names, and whether this person may keep others. */
  saved: SavedView[];
  mayChange: boolean;
  /** What is true of these figures and cannot be seen in them. */
  notes: string[];
  currency: string;
  timeZone: string;
}

import { z } from 'zod';
import type { Sentence } from '../strands';
import { daysQuery, inKnownDays, type DaysView } from './days-query';
import { dimensions, type Dimension } from './dimensions';
import { jsonText } from './json-text';
import { listOf } from './list-of';

/** What can stand beside a visit. */
export const visitColumns = [
  ...(['channel', 'source', 'medium', 'campaign', 'content', 'term'] as const),
  ...(['referrer', 'landing', 'pages', 'length', 'browser', 'lead'] as const),
];
export type VisitColumn = (typeof visitColumns)[number];
const isColumn = (text: string): text is VisitColumn => (visitColumns as readonly string[]).includes(text);
const isDimension = (text: string): text is Dimension => (dimensions as readonly string[]).includes(text);
const usual: VisitColumn[] = ['source', 'medium', 'campaign', 'landing', 'pages', 'length', 'lead'];

export const visitSorts = ['at', 'pages', 'length'] as const;

/** Which visits are listed, as it stands in an address. */
export const visitsQuerySchema = z
  .object({
    ...daysQuery,
    lead: z.enum(['any', 'with', 'without']).catch('any'),
    /** Without staff and bots, or with them. */
    whose: z.enum(['customers', 'everyone']).catch('customers'),
    /** Only those of one browser, in whatever days. */
    browser: z.uuid().or(z.literal('')).catch(''),
    /** Only the first of each browser in these days. */
    first: z.enum(['yes', 'no']).catch('no'),
    columns: listOf(isColumn, visitColumns.length, usual),
    /** Only those that a row of figures counts: what it is broken down by, and its cells. */
    by: listOf(isDimension, 3, []),
    row: jsonText(z.array(z.string())).nullable().catch(null),
    find: z.string().trim().max(100).catch(''),
    sort: z.enum(visitSorts).catch('at'),
    descending: z.enum(['yes', 'no']).catch('yes'),
    page: z.coerce.number().int().min(1).max(100_000).catch(1),
  })
  .transform(inKnownDays);
export type VisitsQuery = z.output<typeof visitsQuerySchema>;

export interface VisitListRow {
  id: string;
  at: string;
  /** Where it opens, below the business: its lead, else the trace of its click; null where neither is known. */
  path: string | null;
  /** Why it is no customer's; '' for everyone else. */
  mark: string;
  visitor: string;
  cells: Partial<Record<VisitColumn, { text: string; isValue: boolean }>>;
}

export interface VisitsView {
  sentence: Sentence;
  asked: Pick<VisitsQuery, 'lead' | 'whose' | 'browser' | 'first' | 'columns' | 'by' | 'row'>;
  range: DaysView;
  rows: VisitListRow[];
  total: number;
  page: number;
  pageSize: number;
  timeZone: string;
}

import { z } from 'zod';
import { textTests } from '../events/kinds';
import type { Sentence } from '../strands';
import { dimensions, isTime, type Dimension } from './dimensions';
import { daysQuery, inKnownDays, ranges, type DaysView } from './days-query';
import { jsonText } from './json-text';
import type { SavedView } from './kept';

export const stepKinds = ['page', 'event', 'form', 'outcome'] as const;
export const mostSteps = 8;

const stepSchema = z.object({
  kind: z.enum(stepKinds),
  /** How a page's path is held against the value, as cues do. */
  test: z.enum(textTests).catch('begins'),
  /** A path, or the name of an event, a form, an outcome. */
  value: z.string().trim().max(300),
  /** Whether it may be skipped. */
  skip: z.boolean().catch(false),
});
export type FunnelStep = z.output<typeof stepSchema>;

/** Days within which a journey has to happen. */
const withinDays = z.coerce.number().int().min(1).max(365);

export const funnelQuerySchema = z
  .object({
    /** Without any, the business's usual ones. */
    steps: jsonText(z.array(stepSchema).max(mostSteps)).catch([]),
    within: z.union([z.literal('visit'), withinDays]).catch(30),
    by: z
      .enum(dimensions)
      .refine((one) => !isTime(one))
      .or(z.literal(''))
      .catch(''),
    ...daysQuery,
    // Long enough that most journeys have come to their end.
    range: ranges.catch('weeks13'),
    segment: z.uuid().or(z.literal('')).catch(''),
  })
  .transform(inKnownDays);
export type FunnelQuery = z.output<typeof funnelQuerySchema>;

/** Which journeys of a funnel are opened: those that made a step, that were lost before it, or that may still make it. */
export const funnelBehindSchema = z.object({
  step: z.coerce.number().int().min(0).max(mostSteps).catch(0),
  end: z.enum(['made', 'lost', 'open']).catch('made'),
  /** What brought them, as it stands in the table; all of them without. */
  cell: z.string().max(300).optional().catch(undefined),
  page: z.coerce.number().int().min(1).max(100_000).catch(1),
});
export type FunnelBehind = z.output<typeof funnelBehindSchema>;

export interface FunnelStepView {
  words: string;
  made: number;
  /** Of those who began. */
  share: number;
  lost: number;
  open: number;
  /** ms */
  median: number | null;
  /** Where those that were lost before it went instead: pages, the most frequent first; and how many went nowhere. */
  instead: { page: string; count: number }[];
  elsewhere: number;
  left: number;
}

export interface FunnelRowView {
  cell: string;
  text: string;
  isValue: boolean;
  made: number[];
  /** Minor units; null where amounts are not seen. */
  worth: number | null;
}

export interface FunnelView {
  sentence: Sentence;
  asked: Pick<FunnelQuery, 'steps' | 'within' | 'by' | 'segment'>;
  range: DaysView;
  steps: FunnelStepView[];
  /** What is wrong with a step, and would be right; such a step is made by nobody. */
  problems: string[];
  /** What those who came to the end brought since then, minor units; null where amounts are not seen. */
  worth: number | null;
  rows: FunnelRowView[];
  offers: {
    paths: string[];
    events: string[];
    forms: { name: string; words: string }[];
    outcomes: { code: string; words: string }[];
  };
  segments: { id: string; name: string }[];
  saved: SavedView[];
  mayChange: boolean;
  seesMoney: boolean;
  currency: string;
  timeZone: string;
}

/** One journey behind a figure. */
export interface JourneyRow {
  id: string;
  visitor: string;
  at: string;
  /** What brought it, as words. */
  from: string;
  /** The last step it made, in words, and when. */
  last: string;
  lastAt: string;
  /** The page it went to instead; '' for none. */
  instead: string;
}
export interface JourneysView {
  sentence: Sentence;
  rows: JourneyRow[];
  total: number;
  page: number;
  pageSize: number;
  timeZone: string;
}

export const funnelDimensions: Dimension[] = dimensions.filter((one) => !isTime(one));

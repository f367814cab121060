import { z } from 'zod';
import type { Sentence } from '../strands';

export const justInKinds = ['hit', 'event', 'lead', 'answer'] as const;
/** A hit of a page; an event that went off; a lead's enquiry or an order; what a platform answered. */
export type JustInKind = (typeof justInKinds)[number];
export const whoseKinds = ['everyone', 'customers', 'marked', 'browser'] as const;
export type Whose = (typeof whoseKinds)[number];

/** Which of what comes in is shown. */
export const justInQuerySchema = z.object({
  kinds: z
    .string()
    .transform((text) => justInKinds.filter((kind) => text.split(',').includes(kind)))
    .refine((kinds) => kinds.length > 0)
    .catch([...justInKinds]),
  /** Everyone's; no staff and bots; browsers that are marked as the business's own; one browser. */
  whose: z.enum(whoseKinds).catch('everyone'),
  /** The browser, by its ID; '' for none. */
  browser: z.uuid().or(z.literal('')).catch(''),
  find: z.string().trim().max(100).catch(''),
});
export type JustInQuery = z.output<typeof justInQuerySchema>;

/** One thing that came in. Values in texts stand between backticks. */
export interface JustInRow {
  id: string;
  kind: JustInKind;
  /** When it happened, ISO 8601. */
  at: string;
  what: string;
  /** Where it came from, or what became of it; '' where there is nothing to say. */
  note: string;
  /** Host and path of its page; '' where it has none. */
  page: string;
  /** Why it is no customer's; '' for everyone else. */
  mark: string;
  /** The release it came under; null where none decided it. */
  release: number | null;
  /** Its browser, to be followed. */
  browser: string | null;
  /** Where it opens, below the business; null where it has no page of its own. */
  path: string | null;
}

/** What a page shows at first, and what is sent as more comes in: then `rows` are those that were not sent before. */
export interface JustInView {
  sentence: Sentence;
  /** The newest first. */
  rows: JustInRow[];
  timeZone: string;
}

/** How long (ms) counts as just in, for the sentence. */
export const justInSpan = 15 * 60_000;
/** Rows that a page keeps. */
export const mostJustIn = 200;

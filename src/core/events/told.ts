import { z } from 'zod';
import { listSchema } from '../strands/schema';
import type { Sentence } from '../strands/sentence';
import { tellingStates, type TellingState } from './telling-states';

/** Events that were told, as their list's address asks for them. */
export const toldEventsSchema = listSchema.extend({
  event: z.string().max(40).catch(''),
  account: z.string().max(80).catch(''),
  state: z.enum(['', ...tellingStates]).catch(''),
});
export type ToldEventsQuery = z.infer<typeof toldEventsSchema>;

/** One event at one destination. Times are UTC, ISO 8601. */
export interface ToldEventRow {
  id: string;
  /** When it happened. */
  at: string;
  event: string;
  /** The account's name. */
  account: string;
  by: 'server' | 'page';
  state: TellingState;
  reason: string;
  toldAt: string | null;
  tries: number;
  /** As it was told last, each part a line; none where a page told it, or nothing was told yet. */
  sent: string[];
  eventId: string;
  mayTellAgain: boolean;
}

export interface ToldEventsView {
  sentence: Sentence;
  rows: ToldEventRow[];
  total: number;
  pageSize: number;
  timeZone: string;
  mayChange: boolean;
}

/** Tells some of them again. */
export const tellAgainSchema = z.strictObject({
  ids: z.array(z.uuid()).min(1, 'must name at least one').max(200, 'must be at most 200'),
});

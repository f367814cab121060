import { z } from 'zod';
import type { Sentence } from '../strands';
import type { Verdict } from './ripeness';

/** By what it can be broken down: what a click came with. */
export const ripenessDimensions = ['source', 'channel', 'medium', 'campaign', 'content', 'platform'] as const;

export const ripenessQuerySchema = z.object({
  /** The code of an outcome; '' for the business's usual one. */
  outcome: z.string().max(20).catch(''),
  by: z.enum(ripenessDimensions).catch('source'),
});
export type RipenessQuery = z.output<typeof ripenessQuerySchema>;

/** Which outcome, and the days of the clicks that are to bring it. */
export const ripeQuerySchema = z.object({ outcome: z.string().max(20), from: z.iso.date(), to: z.iso.date() });
export type RipeQuery = z.output<typeof ripeQuerySchema>;

/** How complete by now is what clicks of some days bring: days after which half, and nine in ten, have come, and the share. */
export interface Ripe {
  half: number;
  nine: number;
  complete: number;
}

/** How long after their click some outcomes come. */
export interface Measured {
  count: number;
  /** Days after which half of them, and nine in ten, have come; null where too few are known. */
  half: number | null;
  nine: number | null;
  /** The share that has come after 0, 1, 2 … days, as far as the longest of all rows; empty where too few are known. */
  curve: number[];
}
export interface RipenessRow extends Measured {
  cell: string;
  text: string;
  isValue: boolean;
}

/** What clicks of one week brought by now. */
export interface RipeningWeek {
  /** Its Monday. */
  week: string;
  visits: number;
  came: number;
  /** The share that usually has come by now; null where too few are known to say. */
  complete: number | null;
  verdict: Verdict;
}

/** Something that ends before the outcome comes: a platform's window, or a cookie. */
export interface LimitView {
  key: string;
  /** "Quillsearch takes clicks up to 80 days old". */
  words: string;
  days: number;
  /** How many came later, of those whose click is older than that. */
  late: number;
  of: number;
  /** The stage before that most of the late ones had reached in time; null where none fits, or nobody was late. */
  earlier: { stage: string; count: number } | null;
  /** Whether a stage reaches the outcome, so that one before it could be counted. */
  isStaged: boolean;
}

export interface RipenessView {
  sentence: Sentence;
  asked: RipenessQuery;
  outcomes: { code: string; words: string }[];
  all: Measured;
  rows: RipenessRow[];
  /** The newest first. */
  weeks: RipeningWeek[];
  limits: LimitView[];
  timeZone: string;
}

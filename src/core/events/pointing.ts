import { z } from 'zod';
import type { Candidate } from './pointed';

/** What a page says of what was pointed at there: each way to say it, with how many of the page it meets. */
export const pointedSchema = z.strictObject({
  page: z
    .string()
    .max(4000)
    .regex(/^https?:\/\/[^\s/?#]/i, 'must be a page’s address'),
  candidates: z
    .array(
      z.strictObject({
        kind: z.enum(['presses', 'presses_words', 'leaves_for', 'sends']),
        text: z.string().min(1).max(300),
        lasts: z.enum(['lasts', 'wording', 'structure', 'generated']),
        here: z.number().int().min(0).max(100_000),
      }),
    )
    .min(1)
    .max(8),
});
export type Pointed = z.infer<typeof pointedSchema>;

/** What a tab may say at the door for pointing: that it begins, goes on or leaves, or what was chosen. */
export const pointingSaysSchema = z.discriminatedUnion('says', [
  z.strictObject({ says: z.literal('begin'), token: z.string().max(80) }),
  z.strictObject({ says: z.literal('go on'), tab: z.string().max(80) }),
  z.strictObject({ says: z.literal('leave'), tab: z.string().max(80) }),
  z.strictObject({ says: z.literal('chosen'), tab: z.string().max(80), pointed: pointedSchema }),
]);

/** Where pointing begins: a page of the website, whole or by its path. */
export const pointAtSchema = z.strictObject({ page: z.string().max(2000) });

export interface PointingView {
  state: 'waits' | 'points' | 'chosen' | 'ended';
  /** The page that was pointed at; '' before. */
  page: string;
  /** The most lasting one first; with how many of it the page had, and where else it was pressed. */
  candidates: (Candidate & { here: number; elsewhere: { presses: number; pages: number } | null })[];
}

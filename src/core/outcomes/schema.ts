import { z } from 'zod';

/** Money: integer minor units (pence, cents) and an ISO 4217 code. */
export const moneySchema = z.object({
  minor: z.number().int(),
  currency: z.string().regex(/^[A-Z]{3}$/),
});
export type Money = z.infer<typeof moneySchema>;

export const outcomeRuleSchema = z.object({
  code: z.string().regex(/^[A-Z][A-Z0-9-]{2,19}$/),
  version: z.number().int().positive(),
  words: z.string().max(80),
  /** Reached at this CRM stage or any later one. */
  stage: z.string().max(80),
  worth: z.object({
    kind: z.literal('expected'),
    /** The CRM field that holds the amount. */
    field: z.string().max(60),
    /** The win rate it rests on: `won` of `of`. */
    winRate: z
      .object({ won: z.number().int().min(0), of: z.number().int().positive() })
      .refine(({ won, of }) => won <= of, { path: ['won'], message: 'must not be more than all there were' }),
  }),
  countedOnceFor: z.enum(['enquiry', 'deal', 'lead']),
  /** How old the click may be when the outcome happens, in days. */
  clickDays: z.number().int().min(1).max(400),
});
export type OutcomeRule = z.infer<typeof outcomeRuleSchema>;

export const tellingRuleSchema = z.object({
  outcome: z.string().max(20),
  platform: z.string().max(40),
  letsItBid: z.boolean(),
  /** How long the outcome must hold before the platform is told: somebody may have moved the deal by mistake. */
  delayMinutes: z.number().int().min(0).max(10_080).default(60),
});
export type TellingRule = z.infer<typeof tellingRuleSchema>;

/** A stage that a deal was moved to, at (ms). */
export interface StageChange {
  stage: string;
  at: number;
}

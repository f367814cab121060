import { z } from 'zod';
import { conditionSchema, toldFromSchema } from '../events/schema';
import { tests, textTests } from '../events/kinds';
import { wayInKinds } from '../strands/types';

/** Money: integer minor units (pence, cents) and an ISO 4217 code. */
export const moneySchema = z.object({
  minor: z.number('must be an amount such as 540.00').int(),
  currency: z.string().regex(/^[A-Z]{3}$/, 'must be three capital letters, such as GBP'),
});
export type Money = z.infer<typeof moneySchema>;

const winRateSchema = z
  .object({ won: z.number().int().min(0), of: z.number().int().positive() })
  .refine(({ won, of }) => won <= of, { path: ['won'], message: 'must not be more than all there were' });

/** What an outcome is worth: nothing that is known, always the same, an amount as it is, or the part of it that is usually won. */
export const worthRuleSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('none') }),
  z.object({ kind: z.literal('fixed'), amount: moneySchema }),
  z.object({
    kind: z.literal('realised'),
    /** The field that holds the amount. */
    field: z.string().min(1, 'must say which amount').max(60),
    /** Fields that are taken off it: delivery, tax, what the goods cost. One that is not known takes nothing off. */
    less: z.array(z.string().max(60)).max(10).default([]),
  }),
  z.object({
    kind: z.literal('expected'),
    field: z.string().min(1, 'must say which amount').max(60),
    /** The win rate it rests on: `won` of `of`. */
    winRate: winRateSchema,
  }),
]);
export type WorthRule = z.infer<typeof worthRuleSchema>;

/**
 * What somebody can come to be counted for: a stage of a deal in the CRM (or any later one), a field of the deal, an order,
 * what a sender posted of an order or a subscription, an event or a page of the website, or what a file says.
 */
export const reachedBySchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('stage'), stage: z.string().max(80) }),
  z.object({
    kind: z.literal('field'),
    /** The CRM's own name of the field, and what it must be. */
    name: z.string().max(60),
    test: z.enum(tests),
    text: z.string().max(300),
  }),
  z.object({ kind: z.literal('order') }),
  z.object({
    kind: z.literal('postback'),
    /** The key of the sender, and the step that it posts. */
    sender: z.string().max(40),
    step: z.string().max(60),
  }),
  z.object({
    kind: z.literal('event'),
    event: z.string().max(40),
    /** All of them must hold, of what the event took along. */
    conditions: z.array(conditionSchema).max(12, 'must be at most 12'),
  }),
  z.object({
    kind: z.literal('page'),
    /** What the path of its address is held against, and how. */
    test: z.enum(textTests),
    text: z.string().max(300),
  }),
  z.object({
    kind: z.literal('file'),
    /** What rows of files call it. */
    says: z.string().max(60),
  }),
]);
export type ReachedBy = z.infer<typeof reachedBySchema>;

/** `click`: where none is known, the browser; `conversion`: each one, without limit. */
export const countedOnceFor = [
  ...(['enquiry', 'deal', 'lead', 'order', 'subscription', 'payment'] as const),
  ...(['click', 'visitor', 'conversion'] as const),
];
export type CountedOnceFor = (typeof countedOnceFor)[number];

/** What an outcome is to the business, from the first interest on; `undone`: a payment that went back. */
export const outcomeKinds = ['interest', 'enquiry', 'agreement', 'payment', 'renewal', 'undone'] as const;
export type OutcomeKind = (typeof outcomeKinds)[number];

export const outcomeRuleSchema = z.object({
  code: z
    .string()
    .regex(/^[A-Z][A-Z0-9-]{2,19}$/, 'must be 3 to 20 capital letters, digits and hyphens, such as FLT-QUAL'),
  version: z.number().int().positive(),
  words: z.string().trim().min(1, 'must say what people call it').max(80, 'must have at most 80 characters'),
  kind: z.enum(outcomeKinds).default('enquiry'),
  reachedBy: reachedBySchema,
  worth: worthRuleSchema,
  countedOnceFor: z.enum(countedOnceFor),
  /** How old the click may be when the outcome happens, in days. */
  clickDays: z.number().int().min(1, 'must be 1 to 400 days').max(400, 'must be 1 to 400 days'),
});
export type OutcomeRule = z.infer<typeof outcomeRuleSchema>;

export const tellingRuleSchema = z.object({
  outcome: z.string().max(20),
  /** The kind of platform, so that an account that is not connected yet can be waited for. */
  platform: z.string().max(40),
  /** The key of the account that is told. */
  account: z.string().max(40),
  /** The platform's own name for the outcome, '' where it takes our code. */
  as: z.string().max(40).default(''),
  letsItBid: z.boolean(),
  /** How long the outcome must hold before the platform is told: somebody may have moved the deal by mistake. */
  delayMinutes: z.number().int().min(0).max(10_080, 'must be at most a week, 10,080 minutes').default(60),
  /** Which clicks it is told of: as the platform's kind has it, each within its window, or only the last paid touch. */
  whose: z.enum(['platform', 'every click', 'last paid touch']).default('platform'),
  /** How much of the worth is told, in percent. */
  percent: z.number().int().min(1, 'must be 1 to 1,000').max(1000, 'must be 1 to 1,000').default(100),
  /** What people must have agreed to. */
  purpose: z.enum(['advertising', 'measurement']).default('advertising'),
  /** By what people are told of of whom no click was ever known. */
  secondKey: z.enum(['none', 'mail', 'telephone']).default('none'),
  /**
   * `told`; `tested`: the platform is asked as a test, which it does not count; `worked out`: nobody is told, to be compared
   * with what another way of telling says.
   */
  how: z.enum(['told', 'tested', 'worked out']).default('told'),
  from: toldFromSchema,
  /** Whether the first ones wait until somebody has looked at them. */
  firstLook: z.boolean().default(false),
});
export type TellingRule = z.infer<typeof tellingRuleSchema>;

/** That an outcome is offered to a place of the website's own reports as a goal: once each, under a name made of its code. */
export const goalRuleSchema = z.object({
  outcome: z.string().max(20),
  /** The account by its key, and its kind. */
  account: z.string().max(80),
  kind: z.string().max(40),
  /** What people must have agreed to. */
  purpose: z.enum(['measurement', 'advertising']).default('measurement'),
});
export type GoalRule = z.infer<typeof goalRuleSchema>;

/** Outcomes that one deal reaches one after the other, so that they are not told as if each were the whole of it. */
export const ladderRuleSchema = z.object({
  name: z.string().trim().min(1, 'must say what people call it').max(60, 'must have at most 60 characters'),
  /** Codes, the first step first. */
  steps: z.array(z.string().max(20)).min(2, 'must have two steps at least').max(12, 'must have at most 12 steps'),
  /** One of them alone lets a platform bid, with its whole worth; or each is worth what it adds to those before it. */
  tells: z.enum(['one bids', 'what it adds']),
});
export type LadderRule = z.infer<typeof ladderRuleSchema>;

/** Which outcome is the *Qualified* of a way in. */
export const qualifiedRuleSchema = z.object({ way: z.enum(wayInKinds), outcome: z.string().max(20) });
export type QualifiedRule = z.infer<typeof qualifiedRuleSchema>;

/** A stage that a deal was moved to, at (ms). */
export interface StageChange {
  stage: string;
  at: number;
  /** Who moved it, as the CRM says; missing where it does not. */
  by?: string;
}

/** A hit that is only pretended, to see what would come of it. */
export const pretendSchema = z.strictObject({
  outcome: outcomeRuleSchema,
  /** The value of a field, or the path of a page. */
  what: z.string().max(2000),
  /** What the event takes along. */
  reads: z.record(z.string().max(60), z.string().max(300)),
  /** The amount that its worth is made of, as a decimal number; '' for none. */
  amount: z.string().max(20),
  currency: z.string().regex(/^[A-Z]{3}$/, 'must be three capital letters, such as GBP'),
  /** Of which kind of platform the click is, and how many days before it was. */
  platform: z.string().max(40),
  clickDays: z
    .number('must be 0 to 400 days')
    .int('must be whole days')
    .min(0, 'must be 0 to 400 days')
    .max(400, 'must be 0 to 400 days'),
});
export type PretendGiven = z.infer<typeof pretendSchema>;

/** The same, sent to an account as a test. */
export const testedPretendSchema = pretendSchema.extend({ account: z.string().max(40) });

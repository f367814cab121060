import { z } from 'zod';
import { usualSteps } from './usual-steps';

const words = (max: number) => z.string().trim().max(max, `must have at most ${max} characters`);
const someWords = (max: number, what: string) => words(max).min(1, `must say ${what}`);

/** A query name under which a tag travels. */
export const tagSchema = z
  .string()
  .regex(/^[A-Za-z][A-Za-z0-9_.-]{0,39}$/, 'must begin with a letter and have at most 40 letters, digits, _ . or -');

export const plannedValueSchema = z.strictObject({
  /** As it stands in links. */
  value: z.string().min(1, 'must not be empty').max(200, 'must have at most 200 characters'),
  /** As people read it. */
  label: words(80),
});
export type PlannedValue = z.infer<typeof plannedValueSchema>;

export const separators = ['-', '_', '.', ''] as const;

/** What the values of one tag must be like. */
export const tagRuleSchema = z.strictObject({
  tag: tagSchema,
  name: someWords(40, 'what the tag is called, such as Source'),
  /** Allowed values. Where there are none, whatever fits the rest of the rule is allowed. */
  values: z.array(plannedValueSchema).max(2000, 'must have at most 2000 values'),
  /** A pattern that typed values must fit as a whole; '' without one. */
  pattern: z.string().max(200, 'must have at most 200 characters'),
  /** True where the values of this tag are campaign names, put together from parts. */
  named: z.boolean(),
  letters: z.enum(['lower', 'upper', 'any'], 'must be lower, upper or any'),
  /** What stands between the words of a value; '' where anything may. */
  separator: z.enum(separators, 'must be - _ . or nothing'),
  longest: z.number('must be a number').int().min(1, 'must be at least 1').max(200, 'must be at most 200'),
  /** `picked`: only what is listed; `typed`: also what fits. */
  entry: z.enum(['picked', 'typed'], 'must be picked or typed'),
  required: z.boolean(),
  example: words(200),
  note: words(500),
});
export type TagRule = z.infer<typeof tagRuleSchema>;

/** One part of a campaign name. */
export const namePartSchema = z.strictObject({
  key: z.string().regex(/^[a-z][a-z0-9]{0,19}$/, 'must be a short word of lower case letters and digits'),
  label: someWords(40, 'what the part is called, such as Market'),
  kind: z.enum(['listed', 'digits', 'word', 'words'], 'must be listed, digits, word or words'),
  /** For `listed`. */
  values: z.array(plannedValueSchema).max(500, 'must have at most 500 values'),
  /** For `digits`: how many. */
  digits: z.number().int().min(1).max(8),
});
export type NamePart = z.infer<typeof namePartSchema>;

/** How campaign names are put together: parts in braces, the rest as it stands, such as `{market}-{yy}q{n}-{line}`. */
export const namingSchema = z.strictObject({
  pattern: z.string().max(200, 'must have at most 200 characters'),
  parts: z.array(namePartSchema).max(12, 'must have at most 12 parts'),
});
export type Naming = z.infer<typeof namingSchema>;

export const mediaTypes = ['owned', 'earned', 'paid'] as const;
export type MediaType = (typeof mediaTypes)[number];

/** Which channel a medium belongs to, in results and in the CRM. */
export const channelRuleSchema = z.strictObject({
  medium: z.string().min(1, 'must name a medium').max(200),
  channel: someWords(60, 'the channel, such as Paid search'),
  /** Campaign types of the CRM; none where it has no such campaigns. */
  crmTypes: z.array(z.string().max(80)).max(20),
  media: z.enum(mediaTypes, 'must be owned, earned or paid'),
  tracked: z.boolean(),
  /** What stands between the channel and its source in words: paid search *on* Quillsearch. */
  joins: z.enum(['on', 'in', 'through']),
});
export type ChannelRule = z.infer<typeof channelRuleSchema>;

/** A tag with its value, as it stands in a link: `utm_content=bw-04`. */
const pairSchema = z
  .string()
  .max(250, 'must have at most 250 characters')
  .regex(/^[A-Za-z][A-Za-z0-9_.-]{0,39}=\S+$/, 'must be a tag with its value, such as utm_content=bw-04');

/** Which media a source goes with, and what a partner prescribes for every link that names it. */
export const sourceRuleSchema = z.strictObject({
  source: z.string().min(1, 'must name a source').max(200, 'must have at most 200 characters'),
  /** Media it goes with; any where there are none. */
  mediums: z.array(z.string().min(1).max(200)).max(40, 'must have at most 40 media'),
  /** Tags that its links always have. */
  fixed: z.array(pairSchema).max(20, 'must have at most 20 tags'),
});
export type SourceRule = z.infer<typeof sourceRuleSchema>;

/** Which channel an untagged arrival belongs to, by the host of its referrer. */
export const referrerRuleSchema = z.strictObject({
  host: z.string().regex(/^[a-z0-9-]+(\.[a-z0-9-]+)+$/, 'must be a host in lower case, such as bakerweekly.example'),
  channel: someWords(60, 'the channel'),
});
export type ReferrerRule = z.infer<typeof referrerRuleSchema>;

/** A value that arrives although the plan does not know it, and what it means. Only reading changes, never what is kept. */
export const aliasSchema = z.strictObject({
  tag: tagSchema,
  value: z.string().min(1).max(200),
  /** The planned value that it means; '' where it is left as it is and no longer named. */
  means: z.string().max(200),
});
export type Alias = z.infer<typeof aliasSchema>;

/** What outcome codes look like: one of the beginnings, a hyphen, and what happened. */
export const outcomeCodeRuleSchema = z.strictObject({
  beginnings: z
    .array(
      z.strictObject({
        code: z.string().regex(/^[A-Z]{2,4}$/, 'must be 2 to 4 capital letters'),
        label: words(60),
      }),
    )
    .max(40),
  /** Most letters of what happened. */
  longest: z.number().int().min(2).max(12),
});
export type OutcomeCodeRule = z.infer<typeof outcomeCodeRuleSchema>;

/** The business's own steps of making a campaign, printed with the plan. */
export const makingStepsSchema = z.strictObject({
  steps: z.array(someWords(300, 'what is done')).max(40, 'must be at most 40 steps'),
});
export type MakingSteps = z.infer<typeof makingStepsSchema>;

/** The names a business has agreed on. */
export const planSchema = z.strictObject({
  tags: z.array(tagRuleSchema).max(40),
  naming: namingSchema,
  channels: z.array(channelRuleSchema).max(200),
  sources: z.array(sourceRuleSchema).max(2000).default([]),
  referrers: z.array(referrerRuleSchema).max(500),
  aliases: z.array(aliasSchema).max(2000),
  outcomeCodes: outcomeCodeRuleSchema,
  making: makingStepsSchema.default({ steps: usualSteps }),
});
export type Plan = z.infer<typeof planSchema>;

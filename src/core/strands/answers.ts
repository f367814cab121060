import { z } from 'zod';
import { lineViews } from './happened';
import { allHops, aloneKinds, wayInKinds } from './types';

/* What the API says of the line and of strands. Times are ISO 8601 in UTC, days are the business's own. */

const hop = z.enum(allHops);
const wayIn = z.enum(wayInKinds);
const state = z.enum(['made_it', 'lost', 'left', 'waiting', 'unknown']);
const time = z.iso.datetime();
const reasonCode = z.string().describe('A reason code, such as crm_field_differs.');

export const lineAnswerSchema = z.object({
  wayIn: wayIn.describe('The way in whose hops these are.'),
  firstDay: z.iso.date(),
  lastDay: z.iso.date(),
  sentence: z.string().describe('What matters now, in words.'),
  hops: z.array(
    z.object({
      hop,
      strands: z.number().int().nullable().describe('Strands that made it; null where no count is known.'),
      lost: z.number().int().describe('Of these, how many were lost before the next hop.'),
      left: z.number().int().describe('How many people did not go on.'),
      waiting: z.number().int(),
      unknown: z.number().int(),
    }),
  ),
  losses: z.array(
    z.object({
      from: hop,
      to: hop,
      reason: reasonCode,
      words: z.string(),
      kind: z.enum(['proven', 'inferred', 'unexplained']),
      strands: z.number().int(),
    }),
  ),
  enquiriesBeside: z.number().int().describe('Enquiries without any known click or tagged landing.'),
  noCustomers: z.number().int().describe('Strands of staff and bots; counted nowhere.'),
  countedLandings: z
    .number()
    .int()
    .describe('Landings of people who did not agree, between Landed and Kept; there are no rows behind them.'),
});

export const strandAnswerSchema = z.object({
  id: z.uuid(),
  kind: z.enum(['click', 'landing', 'lead_form', 'import', ...aloneKinds]),
  platform: z.string(),
  clickId: z.string(),
  firstAt: time,
  source: z.string(),
  medium: z.string(),
  campaign: z.string(),
  content: z.string(),
  enquiryId: z.uuid().nullable(),
  hopsMade: z
    .number()
    .int()
    .describe('Hops of the way in that were made without a break; all of them where `state` is null.'),
  state: state.nullable().describe('Its state at the next hop; null where every hop was made.'),
  reason: reasonCode.nullable(),
});

export const traceAnswerSchema = z.object({
  title: z.string(),
  under: z.string(),
  hops: z.array(
    z.object({
      hop,
      state: z.union([state, z.literal('none')]),
      at: time.nullable(),
      why: z.string(),
      evidence: z.string(),
    }),
  ),
  values: z.array(
    z.object({
      value: z.string().describe('Which value: click_id, source, …'),
      at: z.array(
        z.object({
          hop,
          state: z.enum(['first', 'same', 'changed', 'swapped', 'empty', 'not_seen', 'none']),
          value: z.string(),
          how: z.string().describe('What changed since the hop before.'),
        }),
      ),
    }),
  ),
  events: z.array(
    z.object({
      at: time,
      text: z.string(),
      seenBy: z.string(),
      lead: z
        .uuid()
        .nullable()
        .describe('The other enquiry of the same person that it is of; null where it is of this one.'),
    }),
  ),
});

const day = z.iso.date();
/** A range of days in the query: one of those the interface offers, or `own` with two days. */
export const rangeQueryShape = {
  range: z.enum(['week', 'weeks4', 'cycle', 'release', 'own']).default('weeks4'),
  from: day.optional().describe('First day, with range=own.'),
  to: day.optional().describe('Last day, with range=own.'),
  way: wayIn.default('form').describe('The way in, such as enquiries by form.'),
  segment: z.uuid().or(z.literal('')).default('').describe('Only what brought an enquiry of one segment, by its ID.'),
  platform: z.string().max(40).default('').describe('Only what came from one platform, by its kind.'),
  campaign: z.string().max(300).default('').describe('Only what came with one campaign, by its tracking name.'),
  outcome: z
    .string()
    .max(20)
    .default('')
    .describe('Counted as this outcome, by its code, instead of the Qualified of the way in.'),
  view: z
    .enum(lineViews)
    .default('followed')
    .describe('What was first seen in these days, followed to today; or what happened in these days at each hop.'),
};

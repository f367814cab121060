import { z } from 'zod';
import { marks } from '../capture/no-customer';
import { lineViews } from './happened';
import { allHops, wayInKinds } from './types';

const day = z.string().regex(/^\d{4}-\d{2}-\d{2}$/);

/** What the line shows, as it stands in an address: `week`, `weeks4`, `cycle`, `release`, or two days; the way in; and what it is narrowed to. */
export const rangeSchema = z
  .object({
    range: z.enum(['week', 'weeks4', 'cycle', 'release', 'own']).catch('weeks4'),
    from: day.optional().catch(undefined),
    to: day.optional().catch(undefined),
    /** The way in that is shown; the usual one where an address names none. */
    way: z.enum(wayInKinds).catch('form'),
    /** Only what brought an enquiry of one segment; '' for everything. */
    segment: z.uuid().or(z.literal('')).catch(''),
    /** Only what came from one platform (its kind), or with one campaign (as its name is read); '' for every one. */
    platform: z.string().max(40).catch(''),
    campaign: z.string().max(300).catch(''),
    /** Counted as this outcome, by its code; '' for the Qualified of the way in. */
    outcome: z
      .string()
      .regex(/^[A-Z][A-Z0-9-]{2,19}$/)
      .or(z.literal(''))
      .catch(''),
    /** Followed from the click to today, or as it happened in these days. */
    view: z.enum(lineViews).catch('followed'),
  })
  .transform((value) =>
    value.range === 'own' && !(value.from && value.to) ? { ...value, range: 'weeks4' as const } : value,
  );
export type RangeChoice = z.infer<typeof rangeSchema>;
/** A line of everything, followed to today. */
export const everything = { segment: '', platform: '', campaign: '', outcome: '', view: 'followed' } as const;

/** The way in that something is shown on, as it stands in an address. */
export const waySchema = z.object({ way: z.enum(wayInKinds).catch('form') });
/** What a trace is of: a strand on a way in, with the newest that came in by it, or the one of this ID. */
export const tracedSchema = waySchema.extend({ of: z.uuid().or(z.literal('')).catch('') });

/** What every list takes in its address: text to find, order, page from 1. */
export const listSchema = z.object({
  find: z.string().trim().max(100).catch(''),
  descending: z.enum(['yes', 'no']).catch('yes'),
  page: z.coerce.number().int().min(1).max(100_000).catch(1),
});

/** Which strands of a period to list: those that made a hop, or those that stopped before it, by state and reason. */
export const strandListSchema = listSchema.extend({
  hop: z.enum(allHops).catch('landed'),
  state: z.enum(['made_it', 'lost', 'left', 'waiting', 'unknown']).catch('made_it'),
  /** Reason code, '' for any. */
  reason: z
    .string()
    .regex(/^[a-z_]{0,40}$/)
    .catch(''),
  /** Those marked so instead, wherever they are; `any`: all of staff and bots. */
  mark: z.enum([...marks, 'any']).catch(''),
  /** Only those of which the platform was told another worth since. */
  corrected: z.enum(['yes', '']).catch(''),
  sort: z.enum(['first_at', 'campaign', 'company']).catch('first_at'),
});
export type StrandListQuery = z.infer<typeof strandListSchema>;

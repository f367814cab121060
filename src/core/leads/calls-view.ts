import { z } from 'zod';
import type { CallCodeRule } from '../capture/schema';
import type { ChangedRule } from '../rules';
import type { Sentence } from '../strands';
import { callParts, type CallCounts, type CallReading, type CallSettingsReading } from './calls';

const place = z
  .string()
  .trim()
  .max(200, 'must have at most 200 characters')
  .regex(/^(\/(?:[^~/]|~[01])+)*$/, 'must be where it is, such as /call/from: parts that each begin with /');
const reading = z.strictObject(
  Object.fromEntries(callParts.map((part) => [part, place])) as Record<keyof CallReading, typeof place>,
);

/** How calls are read and counted. */
export const callSettingsSchema = z.strictObject({
  proof: z.enum(['token', 'hmac']),
  header: z
    .string()
    .trim()
    .regex(/^[A-Za-z][A-Za-z0-9-]{1,79}$/, 'must be the name of a header, such as authorization'),
  reading: reading.extend({ calls: place }),
  columnsRead: reading.nullable(),
  shortest: z.number().int().min(0, 'must be 0 to 3,600 seconds').max(3600, 'must be 0 to 3,600 seconds'),
  missedCount: z.boolean(),
  sameDays: z.number().int().min(0, 'must be 0 to 90 days').max(90, 'must be 0 to 90 days'),
});
export type CallSettingsGiven = z.infer<typeof callSettingsSchema>;

const tag = z.string().trim().max(200, 'must have at most 200 characters');
export const callNumberSchema = z.strictObject({
  /** '' for a new one. */
  id: z.uuid().or(z.literal('')),
  number: z
    .string()
    .trim()
    .regex(/^[+(]?[\d\s()./-]{5,38}$/, 'must be a telephone number, such as +44 1632 960018'),
  name: z.string().trim().min(1, 'must say what people call it').max(120, 'must have at most 120 characters'),
  source: tag,
  medium: tag,
  campaign: tag,
  content: tag,
});
export type CallNumberGiven = z.infer<typeof callNumberSchema>;
export const callNumberIdSchema = z.strictObject({ id: z.uuid(), retired: z.boolean() });

/** A call that somebody types in. */
export const callGivenSchema = z.strictObject({
  dialled: callNumberSchema.shape.number,
  caller: z
    .string()
    .trim()
    .regex(/^$|^[+(]?[\d\s()./-]{5,38}$/, 'must be a telephone number, or empty'),
  /** In the business's time zone, as "2027-02-15 17:00". */
  startedAt: z.string().trim(),
  minutes: z.number().min(0, 'must be 0 to 600 minutes').max(600, 'must be 0 to 600 minutes'),
  answered: z.boolean(),
  reference: z.string().trim().max(20, 'must have at most 20 characters'),
});
export type CallGiven = z.infer<typeof callGivenSchema>;

export interface CallView {
  id: string;
  enquiryId: string | null;
  /** Who it is, else the caller's number, else that it is not known. */
  words: string;
  /** The number dialled, as it is called. */
  line: string;
  startedAt: string;
  seconds: number;
  answered: boolean;
  became: CallCounts | 'again' | 'waiting';
  found: 'code' | 'number' | 'nothing' | 'unknown code';
  /** Where it came from in words; '' where that is not known. */
  cameFrom: string;
}

export interface CallNumberView extends CallNumberGiven {
  isRetired: boolean;
  /** Calls to it, and enquiries that they began. */
  calls: number;
  enquiries: number;
}

export interface CallsView {
  sentence: Sentence;
  /** The newest. */
  calls: CallView[];
  total: number;
  numbers: CallNumberView[];
  /** Numbers that were dialled and are not described, the most frequent first. */
  unknown: { number: string; calls: number }[];
  mayChange: boolean;
  timeZone: string;
}

export interface CallSetUpView {
  sentence: Sentence;
  /** Where a telephone system sends calls to. */
  address: string;
  hasSecret: boolean;
  settings: CallSettingsGiven;
  /** When something was last sent, what was wrong with it, and where in it there is something. */
  lastAt: string | null;
  lastProblem: string;
  lastPlaces: { at: string; value: string }[];
  /** Pages that people saw in the last 4 weeks, by their paths. */
  pages: { path: string; arrivals: number }[];
  rules: CallCodeRule[];
  changed: ChangedRule[];
  mayChange: boolean;
  timeZone: string;
}

export type { CallSettingsReading };

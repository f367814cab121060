import { z } from 'zod';
import type { PageValue } from '../destinations/contract';
import { headerNameSchema, pathSchema, pointerSchema } from '../connections/parts-schema';
import { platformReadings } from './own/readings';

const words = (longest: number) => z.string().trim().max(longest, `must have at most ${longest} characters`);
const whole = (least: number, most: number) =>
  z
    .number()
    .int()
    .min(least, `must be ${least} to ${most.toLocaleString('en-GB')}`)
    .max(most, `must be ${least} to ${most.toLocaleString('en-GB')}`);

/** The short name of a kind that a business describes itself: rules, strands and report-backs name it so. */
export const ownKindSchema = z
  .string()
  .regex(/^[a-z][a-z0-9-]{1,38}$/, 'must be lower case letters, digits and hyphens, such as fair-lead');

const queryName = z
  .string()
  .max(60, 'must have at most 60 characters')
  .regex(/^[A-Za-z][\w.-]*$/, 'must begin with a letter and have only letters, digits, _ . or -');

/** When files are written: as soon as something is due, at each full hour, or each day. */
export const fileTimes = ['due', 'hour', 'day'] as const;

/** How an own platform is told: HTTP calls with JSON, with values in their address alone, or with files of rows. */
export const platformTellingSchema = z.object({
  /** What a call carries. A file is CSV (RFC 4180); each value's place is then the heading of its column. */
  writes: z.enum(['json', 'csv']).default('json'),
  /** When files are written, and at what time of the day, in the account's zone. */
  files: z
    .object({
      every: z.enum(fileTimes),
      at: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'must be a time such as 06:00'),
    })
    .default({ every: 'day', at: '06:00' }),
  method: z.enum(['GET', 'POST', 'PUT', 'PATCH']),
  /** Below the account's address: a template (RFC 6570) of what a row holds, where a call is one row. */
  path: pathSchema,
  /** Where it takes the same call as a test, which it answers and does not count; '' where it takes none. */
  testPath: pathSchema.default(''),
  /** Headers of its own, none of them secret. */
  headers: z.array(z.object({ name: headerNameSchema, value: words(500) })).max(20, 'must be at most 20'),
  /** The header that carries the account's token, or a signature made with it, with what stands before it there. */
  token: z.object({ header: headerNameSchema, before: z.string().max(40), signs: z.boolean().default(false) }),
  /** Whether a call takes many rows; where they stand in its body, '' for the body itself. */
  many: z.boolean(),
  rowsAt: pointerSchema,
  /** What a row holds, each value at its place in it. */
  fields: z
    .array(z.object({ at: pointerSchema, reading: z.enum(platformReadings), text: words(200) }))
    .min(1, 'must have at least one value')
    .max(40, 'must be at most 40'),
  answer: z.object({
    /** Where it answers for rows: '' for the answer itself. */
    rowsAt: pointerSchema,
    /** Where each names the event ID; '' where rows are answered in the order they were sent. */
    idAt: pointerSchema,
    /**
     * Where each says how it is; '' for the whole answer, be it JSON or not. Where no word means taken, the status says it for
     * all of them.
     */
    saysAt: pointerSchema,
    taken: z.array(words(120)).max(20),
    /** Said of a row that was told before: taken too, under our own key. */
    toldBefore: z.array(words(120)).max(20),
  }),
});
export type PlatformTelling = z.infer<typeof platformTellingSchema>;

/** How pages tell an own platform: by a function that a script of its own brings. */
export const platformPageSchema = z.object({
  /** Below the account's address. */
  opener: pathSchema.refine((path) => path.length > 1, 'must be the path of its script, such as /opener.js'),
  call: z
    .string()
    .max(80, 'must have at most 80 characters')
    .regex(/^[A-Za-z_$][\w$]*(\.[A-Za-z_$][\w$]*){0,4}$/, 'must be the name of a function, such as lark.say'),
  writes: z
    .array(
      z.tuple([
        pointerSchema,
        z.custom<PageValue>((value) =>
          /^(event_id|click_id|name|moment|(field|number) [\w.-]{1,60})$/.test(String(value)),
        ),
      ]),
    )
    .min(1, 'must have at least one value')
    .max(40, 'must be at most 40'),
  joinHours: whole(0, 9600),
});

/** A platform that a business describes itself. It works like the kinds that ship. */
export const ownPlatformSchema = z.object({
  kind: ownKindSchema,
  words: words(60).min(1, 'must say what people call it'),
  /** Query names under which its click ID comes; the first one is usual. None where it brings no clicks and only takes events. */
  clickParameters: z.array(queryName).max(8, 'must be at most 8'),
  provesPayment: z.boolean(),
  /** What a click ID without UTM tags counts as; the medium only where it proves payment. */
  source: words(200),
  medium: words(200),
  placeholders: z
    .array(
      z.object({
        text: z.string().trim().min(2, 'must have at least 2 characters').max(60),
        words: words(60).min(1, 'must say what it is filled in with'),
        example: words(120),
        isClickId: z.boolean(),
      }),
    )
    .max(40, 'must be at most 40'),
  freezesNames: z.boolean(),
  limits: z.object({
    clickDays: whole(1, 400),
    tellWithinDays: whole(1, 400),
    /** For how many days after it took an outcome it takes corrections of it; 0 where it takes none. */
    changeWithinDays: whole(0, 400).default(0),
    rowsPerCall: whole(1, 5000),
    callsPerMinute: whole(1, 6000),
  }),
  repeats: z.enum(['key', 'order', 'nothing']),
  tells: z.enum(['every click', 'last paid touch']),
  telling: platformTellingSchema,
  /** null where pages do not tell it. */
  page: platformPageSchema.nullable().default(null),
});
export type OwnPlatform = z.infer<typeof ownPlatformSchema>;

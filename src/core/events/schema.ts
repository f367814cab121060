import { z } from 'zod';
import { cueKinds, onceForKinds, readFrom, tests, textTests } from './kinds';

export type { CueKind, OnceFor, ReadFrom, Test } from './kinds';

/* The rules of events, as they stand in a release. */

const text = (max: number) => z.string().max(max, `must have at most ${max} characters`);

export const readingId = text(60).regex(/^[a-z][a-z0-9_]*$/, 'must have lower case letters, digits and _');

export const readingRuleSchema = z.object({
  id: readingId,
  words: z.string().trim().min(1, 'must say what people call it').max(60, 'must have at most 60 characters'),
  from: z.enum(readFrom),
  /** A query name, a cookie's name, a selector, a field's name, a JSON Pointer, a kept value's name, or the words themselves. */
  name: text(300),
  /** Of an element, or of what was pressed: an attribute's name; '' for its text. */
  attribute: text(60),
  /** `mail_hash`: an email address, hashed before it leaves the page, for destinations that take it so. */
  as: z.enum(['text', 'number', 'mail_hash']),
  /** What a number counts, such as GBP or bikes; '' where that is not said. */
  unit: text(12),
  /** The swap table that it goes through; '' for none. */
  swap: text(60),
});
export type ReadingRule = z.infer<typeof readingRuleSchema>;

export const cueSchema = z.object({
  kind: z.enum(cueKinds),
  /** Of an arrival: what of its address is looked at. */
  part: z.enum(['path', 'query', 'address']),
  /** Of an arrival: how. */
  test: z.enum(textTests),
  /**
   * Of an arrival, what its part is held against; else a selector (`presses`, `reads_to`), the words on it
   * (`presses_words`), the beginning of where a link leads (`leaves_for`), a form's name (`sends`), or what the page says.
   */
  text: text(300),
  /** Percent of the page (`reads_down`), or seconds in view (`stays`). */
  amount: z.number().int().min(1, 'must be at least 1').max(3600, 'must be at most 3,600'),
});
export type Cue = z.infer<typeof cueSchema>;

export const conditionSchema = z.object({
  reading: readingId,
  test: z.enum(tests),
  not: z.boolean(),
  text: text(300),
});
export type Condition = z.infer<typeof conditionSchema>;

export const eventRuleSchema = z.object({
  name: text(40).regex(
    /^[a-z][a-z0-9_]*$/,
    'must begin with a lower case letter and have only lower case letters, digits and _, such as enquiry_sent',
  ),
  words: z.string().trim().min(1, 'must say what people call it').max(80, 'must have at most 80 characters'),
  /** Any of them sets it off. */
  cues: z.array(cueSchema).min(1, 'must be at least one').max(8, 'must be at most 8'),
  /** All of them must hold. */
  conditions: z.array(conditionSchema).max(12, 'must be at most 12'),
  /** Readings that it takes along. */
  reads: z.array(readingId).max(20, 'must be at most 20'),
  onceFor: z.enum(onceForKinds),
  /** The reading whose value it counts once for; '' where it is something else. */
  onceReading: text(60),
});
export type EventRule = z.infer<typeof eventRuleSchema>;

/** From when on something is told (RFC 3339); what happened before is only worked out. '' for always. */
export const toldFromSchema = z
  .string()
  .refine(
    (words) => words === '' || z.iso.datetime({ offset: true }).safeParse(words).success,
    'must be a time such as 2027-02-15T17:00:00Z, or nothing',
  )
  .default('');

/** What an event's name at a destination is made of, one after the other: text, or the value of a reading. */
export const wireRuleSchema = z.object({
  event: text(40),
  /** The destination's account, by its key, and its kind. */
  account: text(80),
  kind: text(40),
  named: z
    .array(z.object({ text: text(120), reading: text(60) }))
    .min(1, 'must have a name')
    .max(9, 'must have at most 9 parts'),
  fields: z
    .array(z.object({ name: text(60).min(1, 'must have a name'), reading: readingId }))
    .max(30, 'must be at most 30'),
  /** Who tells it; both are twins, joined by the event's ID. */
  by: z.enum(['server', 'page', 'both']).default('server'),
  /** What somebody must have agreed to. */
  purpose: z.enum(['measurement', 'advertising']),
  /** `worked out`: nobody is told, to be compared with what another way of telling says. */
  how: z.enum(['told', 'worked out']).default('told'),
  from: toldFromSchema,
});
export type WireRule = z.infer<typeof wireRuleSchema>;

export const eventRulesSchema = z.object({
  readings: z.array(readingRuleSchema),
  events: z.array(eventRuleSchema),
  /** That events are told to destinations. */
  wires: z.array(wireRuleSchema).default([]),
  /** Whether pages record which links and buttons are pressed, so that a new event can be judged by what was. */
  presses: z.boolean(),
});
export type EventRules = z.infer<typeof eventRulesSchema>;

import { z } from 'zod';
import { traits } from './traits';

/** Lines of one rehearsal at most, and characters of each. */
export const mostLines = 40;
const lineSchema = z.string().max(2000, 'must have at most 2,000 characters');

export const walkSchema = z.strictObject({
  lines: z.array(lineSchema).max(mostLines, `must be at most ${mostLines} lines`),
  traits: z.array(z.enum(traits)).max(traits.length).default([]),
  /** Whose rules it walks through. */
  rules: z.enum(['draft', 'live']).default('draft'),
  /** Rules as they are being written, which are not in the draft yet. */
  editing: z
    .array(z.strictObject({ kind: z.string().max(40), id: z.string().max(200), value: z.unknown() }))
    .max(20)
    .default([]),
});
export type WalkWanted = z.infer<typeof walkSchema>;

export const expectationSchema = z.strictObject({
  key: z.string().min(1).max(200),
  is: z.string().min(1).max(20),
});

export const savedRehearsalSchema = z.strictObject({
  name: z.string().trim().min(1, 'must have a name').max(80, 'must have at most 80 characters'),
  lines: z.array(lineSchema).min(1, 'must have at least one line').max(mostLines, `must be at most ${mostLines} lines`),
  traits: z.array(z.enum(traits)).max(traits.length).default([]),
  expected: z.array(expectationSchema).max(60, 'must expect at most 60 things').default([]),
});
export type SavedRehearsal = z.infer<typeof savedRehearsalSchema>;

/** @param seen when it was changed last, as it was seen */
export const changedRehearsalSchema = savedRehearsalSchema.extend({ seen: z.iso.datetime() });

export const retiredSchema = z.strictObject({ retired: z.boolean() });

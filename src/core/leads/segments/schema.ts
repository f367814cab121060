import { z } from 'zod';
import { wayInKinds } from '../../strands/types';
import { qualities } from '../quality';
import { conditionKinds, isComplete, touchParts, touchTests, whens, whichTouches } from './condition';

const text = (longest: number) => z.string().trim().max(longest, `must have at most ${longest} characters`);
const day = z
  .string()
  .trim()
  .regex(/^$|^\d{4}-\d\d-\d\d$/, 'must be a day such as 2027-02-15');

export const conditionSchema = z
  .strictObject({
    about: z.enum(conditionKinds),
    touch: z.enum(whichTouches),
    part: z.enum(touchParts),
    test: z.enum(touchTests),
    values: z.array(text(200)).max(50, 'must be at most 50 values'),
    way: z.enum(wayInKinds),
    quality: z.enum(qualities),
    field: text(60),
    when: z.enum(whens),
    days: z.number().int().min(1, 'must be 1 to 3,650 days').max(3650, 'must be 1 to 3,650 days'),
    from: day,
    to: day,
    segment: z.uuid().or(z.literal('')),
  })
  .refine(isComplete, 'must be a whole condition: something in it is not said yet');

/** Which leads are meant: by conditions of which all or any hold. */
export const segmentMeansSchema = z.strictObject({
  match: z.enum(['all', 'any']),
  conditions: z.array(conditionSchema).min(1, 'must have a condition').max(12, 'must have at most 12 conditions'),
});

export const segmentGivenSchema = z.strictObject({
  /** '' for a new one. */
  id: z.uuid().or(z.literal('')),
  name: text(80).min(1, 'must say what it is called'),
  isShared: z.boolean(),
  means: segmentMeansSchema,
  /** When it was last changed as whoever saves it knows it, so that two people undo nothing of each other's; '' for a new one. */
  seen: z.string().max(40),
});
export type SegmentGiven = z.infer<typeof segmentGivenSchema>;

export const segmentIdSchema = z.strictObject({ id: z.uuid() });
export const segmentRetireSchema = segmentIdSchema.extend({ retired: z.boolean() });
export const segmentEffectSchema = z.strictObject({ id: z.uuid().or(z.literal('')), means: segmentMeansSchema });

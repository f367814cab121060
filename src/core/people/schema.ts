import { z } from 'zod';

/** A token as it is asked for in the interface. */
export const newTokenSchema = z.object({
  name: z
    .string()
    .trim()
    .min(1, 'say what the token is for, such as “nightly export”')
    .max(80, 'must have at most 80 characters'),
  rights: z.enum(['read', 'change'], 'must be read or change'),
  seesPeople: z.enum(['on', 'off']).default('off'),
  seesMoney: z.enum(['on', 'off']).default('off'),
  days: z.coerce
    .number('must be a number of days')
    .int()
    .min(1, 'must be at least 1 day')
    .max(3660, 'must be at most 3660 days'),
});
export type NewToken = z.infer<typeof newTokenSchema>;

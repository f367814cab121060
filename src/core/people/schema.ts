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

const rights = {
  role: z.enum(['owner', 'editor', 'reader'], 'must be owner, editor or reader'),
  mayRelease: z.boolean(),
  seesPeople: z.boolean(),
  seesMoney: z.boolean(),
};
/** What somebody may do, as it is given. */
export const rightsSchema = z.strictObject(rights);

const mail = z
  .string()
  .trim()
  .max(254, 'must have at most 254 characters')
  .regex(/^[^\s@]+@[^\s@]+\.[^\s@]+$/, 'must be an email address, such as anna@bakery.example');
export const invitationSchema = z.strictObject({ mail, ...rights });
export type NewInvitation = z.infer<typeof invitationSchema>;

const password = z.string().min(12, 'must have at least 12 characters').max(200, 'must have at most 200 characters');
const personName = z
  .string()
  .trim()
  .min(1, 'must say what people call you')
  .max(120, 'must have at most 120 characters');

/** What somebody new says of themselves as they take an invitation up. */
export const joinSchema = z.strictObject({ name: personName, password });
export const ownPasswordSchema = z.strictObject({ before: z.string().max(500), password });

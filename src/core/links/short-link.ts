import { z } from 'zod';
import { shortLinkWins } from './open';

export const shortLinkSchema = z.strictObject({
  path: z
    .string()
    .trim()
    .regex(/^[a-z0-9](?:[a-z0-9-]{0,58}[a-z0-9])?$/, 'must be 1 to 60 lower case letters, digits and hyphens'),
  destination: z.string().trim().min(1, 'must say where it leads').max(6000),
  wins: z.enum(shortLinkWins, `must be ${shortLinkWins.join(', ')}`).default('link'),
  /** 302: the destination may change; 301 is remembered by browsers for good. */
  status: z.union([z.literal(302), z.literal(301)], 'must be 302 or 301').default(302),
  /** undefined leaves it as it is, '' takes it away. */
  password: z.string().max(200).optional(),
  expiresAt: z.iso
    .datetime({ offset: true, error: 'must be a time such as 2027-03-31T18:00:00Z' })
    .nullable()
    .default(null),
});
export type ShortLinkWanted = z.infer<typeof shortLinkSchema>;

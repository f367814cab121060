import { z } from 'zod';
import { listSchema } from '../strands/schema';
import { newLinkSchema } from './schema';

/** The register of links, as its address asks for it. */
export const linkListSchema = listSchema.extend({
  sort: z.enum(['made_at', 'url', 'campaign', 'owner']).catch('made_at'),
  /** `retired`: those taken out of use instead. */
  show: z.enum(['used', 'retired']).catch('used'),
});
export type LinkListQuery = z.infer<typeof linkListSchema>;

/** Find and replace over all links that are in use. */
export const replaceSchema = z.strictObject({
  find: z.string().min(3, 'must have at least 3 characters').max(400, 'must have at most 400 characters'),
  put: z.string().max(400, 'must have at most 400 characters'),
});
export type ReplaceWanted = z.infer<typeof replaceSchema>;

export const linkIdsSchema = z.strictObject({ links: z.array(z.uuid()).min(1).max(5000) });

/** Where links are used and whose they are. */
export const linkUseSchema = linkIdsSchema.extend({
  usedIn: newLinkSchema.shape.usedIn.unwrap(),
  place: newLinkSchema.shape.place.unwrap(),
  owner: newLinkSchema.shape.owner.unwrap(),
});
export type LinkUseWanted = z.infer<typeof linkUseSchema>;

export const retireSchema = z.strictObject({ retired: z.boolean() });

/** Addresses to be checked. */
export const checkPagesSchema = z.strictObject({
  urls: z.array(z.string().trim().min(1).max(6000)).min(1).max(500, 'must be at most 500 at a time'),
});

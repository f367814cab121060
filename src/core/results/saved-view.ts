import { z } from 'zod';

/** Figures that somebody keeps under a name: what they are asked for, as it stands in an address. */
export const savedViewGivenSchema = z.object({
  name: z.string().trim().min(1, 'must say what it shows').max(60, 'must have at most 60 characters'),
  query: z.string().max(2000, 'must have at most 2,000 characters'),
});
export type SavedViewGiven = z.infer<typeof savedViewGivenSchema>;

export const savedViewRetireSchema = z.object({ id: z.uuid(), retired: z.boolean() });

export interface SavedView {
  id: string;
  name: string;
  query: string;
  by: string;
}

import { z } from 'zod';

/* What people keep beside figures: views under names, and notes of days. */

export const savedKinds = ['figures', 'funnel'] as const;
export type SavedKind = (typeof savedKinds)[number];

/** Figures or a funnel that somebody keeps under a name: what they are asked for, as it stands in an address. */
export const savedViewGivenSchema = z.strictObject({
  kind: z.enum(savedKinds, 'must be figures or funnel'),
  name: z.string().trim().min(1, 'must say what it shows').max(60, 'must have at most 60 characters'),
  query: z.string().max(2000, 'must have at most 2,000 characters'),
});
export type SavedViewGiven = z.infer<typeof savedViewGivenSchema>;

export interface SavedView extends Omit<SavedViewGiven, 'kind'> {
  id: string;
  by: string;
}

/** What somebody notes of a day, so that who reads a course later knows what happened then. */
export const dayNoteGivenSchema = z.strictObject({
  day: z.iso.date('must be a day, such as 2027-02-15'),
  text: z.string().trim().min(1, 'must say what happened').max(200, 'must have at most 200 characters'),
});
export type DayNoteGiven = z.infer<typeof dayNoteGivenSchema>;

export interface DayNote extends DayNoteGiven {
  id: string;
  by: string;
}

/** One of either that is taken out, or brought back. */
export const keptRetireSchema = z.strictObject({ id: z.uuid(), retired: z.boolean() });

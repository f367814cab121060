import { z } from 'zod';

/** What somebody notes of a day, so that who reads a course later knows what happened then. */
export const dayNoteGivenSchema = z.object({
  day: z.iso.date('must be a day, such as 2027-02-15'),
  text: z.string().trim().min(1, 'must say what happened').max(200, 'must have at most 200 characters'),
});
export type DayNoteGiven = z.infer<typeof dayNoteGivenSchema>;

export const dayNoteRetireSchema = z.object({ id: z.uuid(), retired: z.boolean() });

export interface DayNote {
  id: string;
  day: string;
  text: string;
  by: string;
}

import { z } from 'zod';
import type { Sentence } from '../strands';

const text = (longest: number) => z.string().trim().max(longest, `must have at most ${longest} characters`);

/** How leads are brought in. */
export const importHowSchema = z.strictObject({
  /** What the list is called, such as a fair; it is read in the place of a form. */
  list: text(120).min(1, 'must say what the list is called'),
  handsOver: z.enum(['yes', 'no']),
  /** Whether they agreed that platforms are told what comes of it. */
  agreed: z.enum(['yes', 'no']),
  /** Whose click IDs they are; '' where there are none. */
  platform: text(40),
});
export type ImportHow = z.infer<typeof importHowSchema>;

/** A lead that somebody types in, as it would stand in a file. */
export const importGivenSchema = importHowSchema.extend({
  name: text(120),
  company: text(120),
  mail: text(254),
  telephone: text(40),
  /** In the business's time zone, as "2027-02-15 17:00"; '' for now. */
  enquiredAt: text(40),
  source: text(200),
  medium: text(200),
  campaign: text(200),
  content: text(200),
  clickId: text(300),
});
export type ImportGiven = z.infer<typeof importGivenSchema>;

/** What one file came to. */
export interface ImportedFile {
  taken: number;
  known: number;
  erased: number;
  /** Columns that nothing is read of. */
  notRead: string[];
  refused: { row: string; was: string; fix: string }[];
}

export interface ImportsView {
  sentence: Sentence;
  /** Lists that were brought in, the newest first. */
  lists: { name: string; leads: number; inCrm: number; waiting: number; refused: number; lastAt: string }[];
  platforms: { key: string; words: string }[];
  /** What the CRM is called where it takes records; '' where none does. */
  crm: string;
  mayChange: boolean;
  timeZone: string;
}

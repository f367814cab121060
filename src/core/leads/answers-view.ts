import { z } from 'zod';
import type { Sentence } from '../strands';
import type { AnswerTimes } from './answer-times';
import { setQualities, type Quality } from './quality';
import type { WorkingHours } from './working-hours';

/** What somebody says of enquiries; '': what was said is taken back. */
export const qualityGivenSchema = z.strictObject({
  ids: z.array(z.uuid()).min(1).max(200, 'must be at most 200'),
  quality: z.enum([...setQualities, '']),
  reason: z.string().trim().max(80, 'must have at most 80 characters').default(''),
});
export type QualityGiven = z.infer<typeof qualityGivenSchema>;

const time = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$|^24:00$/, 'must be a time such as 09:00');
export const workingHoursSchema = z
  .strictObject({
    days: z.array(z.number().int().min(1).max(7)).min(1, 'must hold at least one day').max(7),
    from: time,
    to: time,
  })
  .refine(({ from, to }) => from < to, { path: ['to'], message: 'must be later than when it begins' });

/** For how many weeks back it is looked at. */
export const answerWeeks = [1, 4, 13] as const;
export const answersQuerySchema = z.object({
  weeks: z.coerce.number().pipe(z.literal(answerWeeks)).catch(4),
  /** Those of one segment; '' for all. */
  segment: z.uuid().or(z.literal('')).catch(''),
});
export type AnswersQuery = z.infer<typeof answersQuerySchema>;

/** What became of the enquiries of a campaign. */
export interface CampaignQuality {
  campaign: string;
  enquiries: number;
  of: Record<Quality, number>;
}

export interface AnswersView {
  sentence: Sentence;
  weeks: number;
  /** The segment that it is narrowed to, '' for none; and those that there are. */
  segment: string;
  segments: { id: string; name: string }[];
  bySource: AnswerTimes[];
  byPerson: AnswerTimes[];
  /** By the hour of the day at which they came, from 00 to 23, those at which any did. */
  byHour: AnswerTimes[];
  byCampaign: CampaignQuality[];
  hours: WorkingHours;
  /** How many were looked at, where there were more. */
  lookedAt: number | null;
  mayChange: boolean;
  timeZone: string;
}

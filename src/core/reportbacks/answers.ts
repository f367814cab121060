import { z } from 'zod';

export const reportBackStates = ['waiting', 'held', 'told', 'unsure', 'confirmed', 'refused', 'withdrawn'] as const;
const time = z.iso.datetime().nullable();

/** What the API says of one report-back. */
export const reportBackAnswerSchema = z.object({
  id: z.uuid(),
  outcomeId: z.uuid(),
  enquiryId: z.uuid(),
  platform: z.string(),
  state: z.enum(reportBackStates),
  reason: z.record(z.string(), z.unknown()).nullable().describe('A reason code with its operands.'),
  clickId: z.string(),
  madeAt: z.iso.datetime(),
  dueAt: time,
  answeredAt: time,
  confirmedAt: time,
});

export const attemptAnswerSchema = z.object({
  at: z.iso.datetime(),
  status: z.string().describe('An HTTP status, or words where there was none.'),
  answer: z.string(),
});

/** What a person found in the platform about a report-back that is unsure. */
export const foundSchema = z.strictObject({ found: z.enum(['taken', 'not taken']) });

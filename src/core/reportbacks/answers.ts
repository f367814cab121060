import { z } from 'zod';
import { keyKinds } from '../platforms/contract';
import { subjectKinds } from '../strands/types';

export const reportBackStates = ['waiting', 'held', 'told', 'unsure', 'confirmed', 'refused', 'withdrawn'] as const;
const time = z.iso.datetime().nullable();

/** What the API says of one report-back. */
export const reportBackAnswerSchema = z.object({
  id: z.uuid(),
  outcomeId: z.uuid(),
  subject: z.object({ kind: z.enum(subjectKinds), id: z.uuid() }),
  enquiryId: z.uuid().nullable().describe('Null for an order.'),
  platform: z.string().describe('The kind of platform.'),
  account: z.string().describe('The key of the account that is told.'),
  toldAs: z.string().describe('What the platform calls the outcome.'),
  correction: z.number().int().describe('0 for what tells it for the first time; its first correction is 1.'),
  newWorth: z
    .number()
    .int()
    .nullable()
    .describe(
      'Of a correction: the new worth, in minor units of its outcome’s currency. Null for any other, and for a token that does not see money.',
    ),
  state: z.enum(reportBackStates),
  reason: z.record(z.string(), z.unknown()).nullable().describe('A reason code with its operands.'),
  key: z
    .object({ kind: z.enum(keyKinds), value: z.string() })
    .describe('What names the click or person to the platform; empty where the CRM is asked for it when it is told.'),
  clickId: z.string().describe('The key where it is a click ID.'),
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

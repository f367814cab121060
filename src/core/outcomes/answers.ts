import { z } from 'zod';
import { subjectKinds } from '../strands/types';

const money = z
  .object({ minor: z.number().int().describe('Minor units, such as pence.'), currency: z.string() })
  .nullable()
  .describe('Null for a token that does not see money.');

/** What the API says of one counted outcome. */
export const outcomeAnswerSchema = z.object({
  id: z.uuid().describe('The event ID under which it is told.'),
  code: z.string(),
  version: z.number().int(),
  subject: z.object({ kind: z.enum(subjectKinds), id: z.uuid() }).describe('What reached it.'),
  enquiryId: z.uuid().nullable().describe('Null for an outcome of an order.'),
  happenedAt: z.iso.datetime(),
  countedAt: z.iso.datetime(),
  stage: z.string().nullable().describe('The stage that reached it; null where none did.'),
  stageSkipped: z.boolean(),
  amount: money,
  worth: money.describe('As it was counted and first told.'),
  worthNow: money.describe('As it is known now: less where something was given back.'),
  change: z.enum(['', 'revalued', 'taken_back', 'other_currency']).describe('How the worth changed since.'),
  winRate: z.string().describe('What its worth rests on where it is expected, such as “1 of 4”; else empty.'),
  release: z.number().int(),
});

import { z } from 'zod';

const money = z
  .object({ minor: z.number().int().describe('Minor units, such as pence.'), currency: z.string() })
  .nullable()
  .describe('Null for a token that does not see money.');

/** What the API says of one counted outcome. */
export const outcomeAnswerSchema = z.object({
  id: z.uuid().describe('The event ID under which it is told.'),
  code: z.string(),
  version: z.number().int(),
  enquiryId: z.uuid(),
  happenedAt: z.iso.datetime(),
  countedAt: z.iso.datetime(),
  stage: z.string(),
  stageSkipped: z.boolean(),
  amount: money,
  worth: money,
  winRate: z.string(),
  release: z.number().int(),
});

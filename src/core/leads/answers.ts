import { z } from 'zod';
import { allHops } from '../strands/types';

/** What the API says of one enquiry. Name and company are '' for a token that does not see people. */
export const leadAnswerSchema = z.object({
  id: z.uuid(),
  strandId: z.uuid().nullable(),
  name: z.string(),
  company: z.string(),
  form: z.string(),
  sentAt: z.iso.datetime(),
  stage: z.string().nullable().describe('Stage in the CRM; null where it is not in the CRM.'),
  crmDeal: z.string().nullable(),
  clickId: z.string(),
  source: z.string(),
  medium: z.string(),
  lastHop: z.enum(allHops).nullable().describe('The last hop made without a break.'),
  state: z.enum(['made_it', 'lost', 'left', 'waiting', 'unknown']).nullable(),
  reason: z.string().nullable().describe('A reason code, such as crm_field_differs.'),
});

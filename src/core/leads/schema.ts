import { z } from 'zod';
import type { Money, StageChange } from '../outcomes/schema';
import { readingId } from '../events/schema';
import { listSchema } from '../strands/schema';
import { qualities } from './quality';
import { followedValues } from './values';

export const crmRuleSchema = z.object({
  /** The account this mapping is for. */
  account: z.string().min(1, 'must be a connected CRM').max(40),
  stages: z.object({
    inOrder: z.array(z.string().max(80)).min(1, 'must have at least one stage').max(60, 'must have at most 60 stages'),
    ended: z.array(z.string().max(80)).max(60, 'must have at most 60 stages'),
  }),
  /** The custom field that carries the lead token. */
  leadTokenField: z.string().min(1, 'must be a field of the CRM').max(60, 'must have at most 60 characters'),
  /** Which CRM field holds which value. */
  fields: z.partialRecord(z.enum(followedValues), z.string().max(60)),
});
export type CrmRule = z.infer<typeof crmRuleSchema>;

/** What can be written into the CRM: of a touch, what an event took along, or of the enquiry itself. */
export const writtenParts = [
  'words',
  'origin',
  'campaign_words',
  'source',
  'medium',
  'campaign',
  'content',
  'term',
  'campaign_id',
  'referrer',
  'landing',
  'click_id',
  'reading',
  'card',
  'link',
] as const;
export type WrittenPart = (typeof writtenParts)[number];

/** What is written into fields of the CRM's records. Several fields hold one touch after the other. */
export const crmWriteRuleSchema = z.strictObject({
  id: z.string().min(1).max(60),
  part: z.enum(writtenParts),
  /** Of an event, which it takes along; '' where something else is written. */
  reading: readingId.or(z.literal('')).default(''),
  touch: z.enum(['enquiry', 'first', 'each']),
  swap: z.string().max(80),
  fields: z
    .array(z.string().trim().min(1, 'must be a field of the CRM').max(60, 'must have at most 60 characters'))
    .min(1, 'must name a field of the CRM')
    .max(5, 'must be at most 5 fields'),
  /** `own`: also where it holds what was written before, or what the form sent. */
  when: z.enum(['empty', 'own', 'always']),
});
export type CrmWriteRule = z.infer<typeof crmWriteRuleSchema>;

/** A deal with its person, as the CRM's record was last read back. Times in ms. */
export interface CrmRecord {
  deal: string;
  person: string;
  personName: string;
  company: string;
  madeAt: number;
  /** When the CRM last changed it. */
  changedAt: number;
  stage: string;
  stageChanges: StageChange[];
  /** Custom fields by name. */
  fields: Record<string, string>;
  /** When (ms) fields that changed since the record was known first got what they have; missing of records of before. */
  fieldsAt?: Record<string, number>;
  /** Amount fields by name. */
  amounts: Record<string, Money>;
}

/** The list of enquiries, as its address asks for it. */
export const leadListSchema = listSchema.extend({
  sort: z.enum(['sentAt', 'company', 'stage']).catch('sentAt'),
  /** Those answered so far; '' for all but what was no enquiry. */
  quality: z.enum([...qualities, '']).catch(''),
  /** Those of one segment; '' for all. */
  segment: z.uuid().or(z.literal('')).catch(''),
});
export type LeadListQuery = z.infer<typeof leadListSchema>;

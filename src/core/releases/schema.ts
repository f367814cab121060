import { z } from 'zod';
import { captureRulesSchema } from '../capture/schema';
import { crmRuleSchema } from '../leads/schema';
import { outcomeRuleSchema, tellingRuleSchema } from '../outcomes/schema';

/** Every rule of a business, as one numbered release holds it. A stored release never changes. */
export const releaseContentSchema = z.object({
  capture: captureRulesSchema,
  words: z.object({
    sources: z.array(z.object({ source: z.string().max(200), words: z.string().max(80) })),
    mediums: z.array(
      z.object({
        medium: z.string().max(200),
        words: z.string().max(80),
        /** What stands between it and its source: paid search *on* Quillsearch, e-mail *in* the letter. */
        joins: z.enum(['on', 'in', 'through']),
        paid: z.boolean(),
      }),
    ),
  }),
  crm: crmRuleSchema,
  outcomes: z.array(outcomeRuleSchema),
  telling: z.array(tellingRuleSchema),
  /** The outcome that is each way in's Qualified hop. */
  qualified: z.object({ form: z.string().max(20) }),
});
export type ReleaseContent = z.infer<typeof releaseContentSchema>;

/** A release with its place in the business's history. */
export interface Release {
  business: string;
  number: number;
  name: string;
  content: ReleaseContent;
  madeAt: number;
}

import { z } from 'zod';
import { noCustomerRuleSchema } from '../capture/no-customer';
import { captureRulesSchema } from '../capture/schema';
import { eventRulesSchema } from '../events/schema';
import { ownCrmSchema } from '../crms/schema';
import { crmRuleSchema, crmWriteRuleSchema } from '../leads/schema';
import { goalRuleSchema, ladderRuleSchema, outcomeRuleSchema, tellingRuleSchema } from '../outcomes/schema';
import { planSchema } from '../plan/schema';
import { ownPlatformSchema } from '../platforms/schema';
import { wayInKinds } from '../strands/types';

/** Every rule of a business, as one numbered release holds it. A stored release never changes. */
export const releaseContentSchema = z.object({
  capture: captureRulesSchema,
  plan: planSchema,
  /** Outside `capture`, which every page gets: networks and mail domains are nobody else's business. */
  noCustomer: noCustomerRuleSchema.default({ networks: [], mailDomains: [], hosts: [] }),
  /** What counts on pages, and what is read with it. Releases of before there were events have none. */
  events: eventRulesSchema.default({ readings: [], events: [], wires: [], presses: false }),
  /** null where no CRM is read. */
  crm: crmRuleSchema.nullable(),
  /** What is written back into its records. */
  crmWrites: z.array(crmWriteRuleSchema).default([]),
  /** Platforms and CRMs that the business describes itself. */
  platforms: z.array(ownPlatformSchema).default([]),
  crms: z.array(ownCrmSchema).default([]),
  outcomes: z.array(outcomeRuleSchema),
  telling: z.array(tellingRuleSchema),
  ladders: z.array(ladderRuleSchema).default([]),
  goals: z.array(goalRuleSchema).default([]),
  /** The outcome that is *Qualified* on each way in; none where nobody said yet. */
  qualified: z.partialRecord(z.enum(wayInKinds), z.string().max(20)),
});
export type ReleaseContent = z.infer<typeof releaseContentSchema>;

/** A release with its place in the business's history. */
export interface Release {
  business: string;
  number: number;
  name: string;
  note: string;
  content: ReleaseContent;
  madeAt: number;
  /** null where it came with the business. */
  madeBy: string | null;
}

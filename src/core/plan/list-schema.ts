import { z } from 'zod';
import { listSchema } from '../strands/schema';

/** The values off plan, as their page's address asks for them. */
export const offPlanListSchema = listSchema.extend({
  sort: z.enum(['arrivals', 'value', 'lastAt']).catch('arrivals'),
});
export type OffPlanListQuery = z.infer<typeof offPlanListSchema>;

import { z } from 'zod';
import { findingKinds } from './findings';

/** Which of the arrivals behind a fault are asked for; what is not understood is as usual. */
export const foundArrivalsSchema = z.object({
  kind: z.enum(findingKinds).catch('click_id_gone'),
  name: z.string().max(60).catch(''),
  find: z.string().max(120).catch(''),
  sort: z.enum(['at', 'page', 'campaign']).catch('at'),
  descending: z.enum(['yes', 'no']).catch('yes'),
  page: z.coerce.number().int().min(1).max(10_000).catch(1),
});
export type FoundArrivalsQuery = z.infer<typeof foundArrivalsSchema>;

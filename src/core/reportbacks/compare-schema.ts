import { z } from 'zod';

/** Which comparison is looked at. */
export const compareQuerySchema = z.object({
  of: z.string().max(130).catch(''),
  /** '' for files where some were brought, else for the platform's report where it has one. */
  against: z.enum(['file', 'report', '']).catch(''),
  as: z.string().max(210).catch(''),
});
export type CompareQuery = z.infer<typeof compareQuerySchema>;

/** From when on Avrix tells what it only worked out. */
export const switchOverSchema = z.strictObject({
  of: z.string().max(130),
  /** As clocks of the business show it. */
  at: z.string().regex(/^\d{4}-\d\d-\d\dT\d\d:\d\d(:\d\d)?$/, 'must be a time such as 2027-02-15T17:00'),
});

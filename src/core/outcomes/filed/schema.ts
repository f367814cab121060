import { z } from 'zod';
import { fileParts } from './parts';

/** How the rows of a file of conversions are read. */
export const filedHowSchema = z.strictObject({
  /** The column that each part stands in, by its heading; '' where none does. */
  columns: z.record(z.enum(fileParts), z.string().max(200)),
  /** Of times without their zone. */
  timeZone: z.string().min(1).max(60),
  /** How days are written that begin with no year. */
  dates: z.enum(['day first', 'month first']),
  decimals: z.enum(['point', 'comma']),
  /** Of amounts without their currency. */
  currency: z.string().regex(/^([A-Z]{3})?$/, 'must be three capital letters, such as GBP, or empty'),
  /** What rows say of which no column names the outcome. */
  says: z.string().trim().max(60),
  /** The platform whose click IDs they are; '' where Avrix looks in all that it knows. */
  platform: z.string().max(40),
  /** Whether these people agreed that platforms are told. */
  agreed: z.enum(['yes', 'no']),
  /**
   * What another way of telling told is compared with, as `comparedKey` writes it, and counted nowhere; '' where its rows count.
   */
  compares: z.string().max(130).default(''),
});
export type FiledHow = z.infer<typeof filedHowSchema>;

/** A file as it is sent: its name stands in the query. */
export const filedNameSchema = z.object({
  name: z.string().trim().min(1, 'must be the name of the file').max(120),
  compares: z.string().max(80).default(''),
});
export const filedListSchema = z.object({
  page: z.coerce.number().int().min(1).max(1_000_000).catch(1),
  find: z.string().max(200).catch(''),
  answer: z.enum(['taken', 'repeated', 'refused', '']).catch(''),
});
export type FiledListQuery = z.infer<typeof filedListSchema>;

/** A file that was written for another program. */
export const writtenFileSchema = z.strictObject({ folder: z.string().max(60), name: z.string().max(130) });

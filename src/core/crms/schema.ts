import { z } from 'zod';
import { headerNameSchema, pathSchema, pointerSchema } from '../connections/parts-schema';
import { ownKindSchema } from '../platforms/schema';

const fieldName = z.string().trim().min(1, 'must have a name').max(60, 'must have at most 60 characters');
const named = z.object({ name: fieldName, at: pointerSchema });

/** Where a record's parts stand in the JSON it comes in, or in a row of a file as `/Column`; '' where it has none. */
export const recordReadingSchema = z.object({
  number: pointerSchema.min(1, 'must say where the record’s number is'),
  person: pointerSchema,
  personName: pointerSchema,
  mail: pointerSchema,
  telephone: pointerSchema,
  company: pointerSchema,
  stage: pointerSchema,
  madeAt: pointerSchema,
  changedAt: pointerSchema,
  currency: pointerSchema,
  /** The currency of amounts that come without one. */
  otherwiseCurrency: z.string().regex(/^[A-Z]{3}$/, 'must be three capital letters, such as GBP'),
  amounts: z.array(named).max(20, 'must be at most 20'),
  /** The lead token, the click ID and whatever else is read, by the names that rules know them under. */
  fields: z.array(named).max(60, 'must be at most 60'),
});
export type RecordReading = z.infer<typeof recordReadingSchema>;

/** A CRM that a business describes itself. */
export const ownCrmSchema = z.object({
  kind: ownKindSchema,
  words: z.string().trim().min(1, 'must say what people call it').max(60, 'must have at most 60 characters'),
  /** The header that carries the account's token, with what stands before it there. */
  token: z.object({ header: headerNameSchema, before: z.string().max(40) }),
  /** Records that it sends: whole, each call with one or many of them. */
  webhook: z
    .object({
      /** `hmac`: HMAC-SHA256 in hex over the body, under the account's secret. `secret`: the secret itself. */
      proof: z.enum(['hmac', 'secret']),
      header: headerNameSchema,
      recordsAt: pointerSchema,
    })
    .nullable(),
  /** A list that is asked for what changed. */
  list: z
    .object({
      path: pathSchema,
      since: z.object({
        name: z.string().regex(/^[\w.[\]-]{1,60}$/, 'must be a query name'),
        as: z.enum(['time', 'seconds', 'ms']),
      }),
      recordsAt: pointerSchema,
      /** Where an answer has the address of its next page; '' where it has none. */
      nextAt: pointerSchema,
    })
    .nullable(),
  reads: recordReadingSchema,
  /** Columns of its files, remembered from the last one; null where it sends none. */
  columns: recordReadingSchema.nullable(),
  /** How values are written back to a record; null where they are not. */
  writes: z
    .object({
      method: z.enum(['POST', 'PUT', 'PATCH']),
      /** The address is the one before the record's number, the number, and what comes after it. */
      before: pathSchema,
      after: z
        .string()
        .max(200)
        .regex(/^([/?][^\s#]*)?$/, 'must begin with a slash or a question mark'),
      fields: z.array(z.object({ name: fieldName, at: pointerSchema })).max(60, 'must be at most 60'),
    })
    .nullable(),
});
export type OwnCrm = z.infer<typeof ownCrmSchema>;

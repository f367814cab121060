import { z } from 'zod';
import { headerNameSchema } from '../../connections/parts-schema';
import { listSchema } from '../../strands/schema';
import { noticeMeans, noticeParts, type NoticeReading } from './notice';

const place = z
  .string()
  .trim()
  .max(200, 'must have at most 200 characters')
  .regex(/^(\/(?:[^~/]|~[01])+)*$/, 'must be where it is, such as /payment/amount: parts that each begin with /');

export const proofs = ['address', 'token', 'hmac'] as const;

/** How a sender of postbacks proves itself, how what it posts is read, and what its steps mean. */
export const senderSchema = z.strictObject({
  name: z.string().trim().min(1, 'must say what people call it').max(80, 'must have at most 80 characters'),
  /** `address`: by the secret in its address; `token`: in a header; `hmac`: by the HMAC-SHA256 of the body in a header. */
  proof: z.enum(proofs),
  header: headerNameSchema,
  reading: z.strictObject(
    Object.fromEntries(noticeParts.map((part) => [part, place])) as Record<keyof NoticeReading, typeof place>,
  ),
  steps: z
    .array(
      z.strictObject({
        says: z.string().trim().min(1, 'must be what it says').max(60, 'must have at most 60 characters'),
        means: z.enum(noticeMeans),
      }),
    )
    .max(40, 'must be at most 40')
    .refine((steps) => new Set(steps.map(({ says }) => says)).size === steps.length, 'must say each step once'),
  /** Whether a refund names what was given back, or what is left of the payment. */
  refundSays: z.enum(['back', 'left']),
  /** Whether amounts are in pence or cents, in place of 54.00. */
  inMinor: z.boolean(),
  /** Where a postback names none. */
  currency: z.string().regex(/^[A-Z]{3}$/, 'must be three capital letters, such as GBP'),
});
export type SenderGiven = z.infer<typeof senderSchema>;

/** A sender as it is saved; `id` is '' for a new one. */
export const savedSenderSchema = senderSchema.extend({ id: z.uuid().or(z.literal('')) });
export const senderIdSchema = z.strictObject({ id: z.uuid() });
export const retiredSenderSchema = senderIdSchema.extend({ retired: z.boolean() });

/** Postbacks, as their address asks for them: found by order, subscription, payment or step. */
export const noticeListSchema = listSchema.extend({
  sort: z.enum(['receivedAt', 'happenedAt', 'amount']).catch('receivedAt'),
  sender: z.uuid().or(z.literal('')).catch(''),
});
export type NoticeListQuery = z.infer<typeof noticeListSchema>;

/** A postback as somebody pastes it: JSON, a form's body, or an address with its query. */
export const pastedSchema = z.strictObject({
  sender: senderSchema,
  text: z
    .string()
    .trim()
    .min(1, 'must be an example of what is posted')
    .max(20_000, 'must have at most 20,000 characters'),
});

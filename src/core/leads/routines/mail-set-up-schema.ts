import { z } from 'zod';

const text = (longest: number) => z.string().trim().max(longest, `must have at most ${longest} characters`);
const address = z.email('must be an email address, such as hello@larkmoor.example');
/** How emails are sent. */
export const mailSettingsSchema = z.strictObject({
  host: text(200).regex(/^[A-Za-z0-9.-]+$/, 'must be the name of your mail server, such as smtp.larkmoor.example'),
  port: z.number().int().min(1, 'must be 1 to 65535').max(65535, 'must be 1 to 65535'),
  security: z.enum(['tls', 'starttls', 'none']),
  user: text(200),
  /** null leaves the one that is known; '' takes it away. */
  password: z.string().max(300).nullable(),
  fromName: text(80).min(1, 'must say who writes'),
  fromAddress: address,
  replyTo: address.or(z.literal('')),
  perMinute: z.number().int().min(1, 'must be 1 to 1,000').max(1000, 'must be 1 to 1,000'),
});
export type MailSettingsGiven = z.infer<typeof mailSettingsSchema>;
export const mailStopSchema = z.strictObject({ address });
export const mailStopEndSchema = z.strictObject({ hash: z.string().regex(/^[0-9a-f]{64}$/) });
export const mailTestSchema = z.strictObject({ to: address });

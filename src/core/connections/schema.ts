import { z } from 'zod';
import { isFolder } from './folder';
import { currencySchema, hostOfWebsite, timeZoneSchema } from '../businesses/schema';

/** The address of an outside service: its host, and a path below which all it offers is. */
const endpointSchema = z
  .string()
  .trim()
  .max(500, 'must have at most 500 characters')
  .transform((written) => written.replace(/\/+$/, ''))
  .refine(
    isEndpoint,
    'must be an address such as https://api.example, without a query or a password in it, or a folder such as folder:partner',
  );

function isEndpoint(written: string): boolean {
  if (isFolder(written)) return true;
  if (!/^https?:\/\//i.test(written) || !URL.canParse(written)) return false;
  const { search, hash, username, password } = new URL(written);
  return search === '' && hash === '' && username === '' && password === '';
}

const secret = (most: number) =>
  z
    .string()
    .trim()
    .max(most, `must have at most ${most.toLocaleString('en-GB')} characters`)
    .regex(/^[\x21-\x7e]*$/, 'must have only letters, digits and signs, without spaces or line breaks');

const accountParts = {
  name: z.string().trim().min(1, 'must say what people call it').max(120, 'must have at most 120 characters'),
  endpoint: endpointSchema,
  timeZone: timeZoneSchema,
  currency: currencySchema,
  /** Proves Avrix to the service. */
  token: secret(2000),
  /** Proves the service to Avrix, where it sends webhooks; '' has one made up. */
  webhookSecret: secret(500),
};

export const newAccountSchema = z.strictObject({
  /** A kind of platform or CRM, one that ships or one of the business's own. */
  kind: z.string().min(1, 'must be a platform or CRM').max(40),
  ...accountParts,
  /** Whether the draft takes a rule by which pages keep the platform's click ID, where it has none. */
  keepClickId: z.boolean().default(false),
});
export type NewAccount = z.infer<typeof newAccountSchema>;

/** An account as it is changed; '' as a key leaves the key as it is. */
export const changedAccountSchema = z.strictObject(accountParts);
export type ChangedAccount = z.infer<typeof changedAccountSchema>;

export const websiteSchema = z.strictObject({
  website: z
    .string()
    .max(500, 'must have at most 500 characters')
    .refine((written) => hostOfWebsite(written) !== '', 'must be a website’s address, such as https://bakery.example'),
});
export const accountStates = ['go on', 'pause', 'retire'] as const;
export const accountStateSchema = z.strictObject({ state: z.enum(accountStates) });
export type AccountState = (typeof accountStates)[number];

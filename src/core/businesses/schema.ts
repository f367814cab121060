import { z } from 'zod';

/** Whether the runtime knows a time zone by this name (IANA). */
const isTimeZone = (zone: string): boolean => {
  try {
    return Boolean(new Intl.DateTimeFormat('en-GB', { timeZone: zone }));
  } catch {
    return false;
  }
};

export const timeZoneSchema = z.string().refine(isTimeZone, 'must be a time zone such as Europe/London');
export const currencySchema = z.string().regex(/^[A-Z]{3}$/, 'must be three capital letters, such as GBP');

/**
 * The host of a website as somebody writes its address: with or without `https://`, with or without a path.
 * @returns '' where it is no address
 */
export function hostOfWebsite(written: string): string {
  const text = written.trim();
  const address = /^[a-z][a-z0-9+.-]*:/i.test(text) && !/^[^/:]+:\d/.test(text) ? text : `https://${text}`;
  if (!/^https?:\/\/[^\s/?#@]+([/?#]|$)/i.test(address)) return '';
  try {
    const { hostname } = new URL(address);
    const host = hostname.replace(/\.$/, '').toLowerCase();
    // A name of one part is no website's; an address of numbers has no names below it to keep cookies for.
    return /^[a-z0-9-]+(\.[a-z0-9-]+)+$/.test(host) && !/^[\d.]+$/.test(host) ? host : '';
  } catch {
    return '';
  }
}

/** A business as somebody makes it. */
export const newBusinessSchema = z.strictObject({
  name: z.string().trim().min(1, 'must say what it is called').max(120, 'must have at most 120 characters'),
  website: z
    .string()
    .max(500, 'must have at most 500 characters')
    .refine((written) => hostOfWebsite(written) !== '', 'must be a website’s address, such as https://bakery.example'),
  timeZone: timeZoneSchema,
  currency: currencySchema,
});
export type NewBusiness = z.infer<typeof newBusinessSchema>;

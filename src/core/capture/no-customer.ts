import { z } from 'zod';
import { hostOf, isUnder } from './address';
import type { Hit } from './schema';

const most = 200;
const host = z
  .string()
  .max(253)
  .regex(/^[a-z0-9-]+(\.[a-z0-9-]+)*$/, 'must be a host in lower case, such as staging.larkmoor.example');

/** Who and what is no customer: one list. Bots and browsers marked by their link are none either. */
export const noCustomerRuleSchema = z.strictObject({
  /** IP addresses and networks as CIDR (RFC 4632, RFC 4291), such as 203.0.113.0/24. */
  networks: z
    .array(
      z.union([z.cidrv4(), z.cidrv6(), z.ipv4(), z.ipv6()], {
        error: 'must be an IP address or a network such as 203.0.113.0/24',
      }),
    )
    .max(most),
  mailDomains: z.array(host).max(most),
  /** Hosts of the website that nobody but its makers opens; what lies under one is meant too. */
  hosts: z.array(host).max(most),
});
export type NoCustomerRule = z.infer<typeof noCustomerRuleSchema>;

/** Why something is marked as no customer: kept, shown apart, never counted, never told. `test`: a platform's test lead. */
export const marks = ['', 'bot', 'network', 'browser', 'host', 'mail', 'test'] as const;
export type Mark = (typeof marks)[number];

/**
 * Why what one hit shows is no customer's; '' for everyone else.
 *
 * @param edge what the edge saw when it came: a program that names itself, or an address of an own network
 * @param hosts where nobody but the website's makers is
 */
export function markOf(hit: Pick<Hit, 'address' | 'noCustomer'>, edge: Mark, hosts: string[]): Mark {
  if (edge) return edge;
  if (hit.noCustomer) return 'browser';
  const on = hostOf(hit.address);
  return hosts.some((own) => isUnder(on, own)) ? 'host' : '';
}

/** The part of a mail address after its last `@`, in lower case; '' where there is none. */
export const mailDomainOf = (mail: string): string => /@([^@\s]+)$/.exec(mail.trim().toLowerCase())?.[1] ?? '';

/** True where a mail domain is one of the list, or lies under one. */
export const isOwnMail = (domain: string, mailDomains: string[]): boolean =>
  domain !== '' && mailDomains.some((own) => isUnder(domain, own));

import type { IncomingMessage } from 'node:http';
import { isIP } from 'node:net';
import { isOfNetworks } from '../capture/networks';

/** An address as it is compared: an IPv4 address that is written as IPv6 is one (RFC 4291, 2.5.5.2). */
const plain = (address: string): string => address.replace(/^::ffff:(?=\d+\.)/i, '');

/** The `for` of each step of a Forwarded header (RFC 7239), without its port; '' where it names no address. */
const forOf = (step: string): string => {
  const value = /(?:^|;)\s*for=("[^"]*"|[^;\s]*)/i.exec(step)?.[1]?.replace(/^"|"$/g, '') ?? '';
  return /^\[([^\]]+)\](?::\d+)?$/.exec(value)?.[1] ?? value.replace(/^([\d.]+):\d+$/, '$1');
};

/** Who proxies say they pass a request on for, the nearest last. */
function passedOnFor({ forwarded, 'x-forwarded-for': xForwardedFor }: IncomingMessage['headers']): string[] {
  const steps = (header: string | string[]) => String(header).split(',');
  // A proxy writes one of the two; where both came the other may be the visitor's own words.
  if (forwarded !== undefined && xForwardedFor !== undefined) return [];
  if (forwarded !== undefined) return steps(forwarded).map(forOf);
  return xForwardedFor === undefined ? [] : steps(xForwardedFor).map((step) => step.trim());
}

/**
 * The address a request came from. What X-Forwarded-For or Forwarded says is believed of proxies of one's own only, from
 * the nearest outwards up to the first address that is none of them.
 *
 * @param trusted networks of the proxies, as CIDR
 */
export function clientAddress(
  { headers, socket }: Pick<IncomingMessage, 'headers' | 'socket'>,
  trusted: string[],
): string {
  let address = plain(socket.remoteAddress ?? '');
  for (const next of passedOnFor(headers).reverse()) {
    if (!isOfNetworks(address, trusted) || isIP(next) === 0) break;
    address = plain(next);
  }
  return address;
}

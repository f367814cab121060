import { lookup } from 'node:dns/promises';
import { BlockList, isIP } from 'node:net';
import { networkInterfaces } from 'node:os';

/** A call of which nothing left: the host is refused or unknown, or nobody took the connection. */
export class NotSent extends Error {}

/** Addresses that are nobody else's business: loopback, private, link-local, unspecified, multicast. */
const inside = new BlockList();
for (const [net, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.168.0.0', 16],
  ['224.0.0.0', 3],
] as const)
  inside.addSubnet(net, bits, 'ipv4');
for (const [net, bits] of [
  ['::', 127],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const)
  inside.addSubnet(net, bits, 'ipv6');

async function resolveHost(host: string): Promise<{ address: string; family: 4 | 6 }> {
  if (host === 'localhost' || host.endsWith('.localhost')) return { address: '127.0.0.1', family: 4 };
  const bare = host.replace(/^\[|\]$/g, '');
  const family = isIP(bare);
  if (family) return { address: bare, family: family as 4 | 6 };
  const { address, family: found } = await lookup(host).catch((error: Error) => {
    throw new NotSent(error.message);
  });
  return { address, family: found as 4 | 6 };
}

/** An address of this machine's own, also one that is reached from outside: what answers there is as near as loopback. */
const isOwn = (address: string): boolean =>
  Object.values(networkInterfaces()).some((all) => all?.some((own) => own.address.split('%')[0] === address));

/** Where a host is, to which something may be sent. @throws NotSent */
export type Reachable = (host: string, port: string) => Promise<{ address: string; family: 4 | 6 }>;

/**
 * Finds the address of a host, and refuses what lies inside the network and this machine's own unless the operator lists host
 * and port. What is sent goes to just the address that was checked.
 *
 * @param allowedInside `host:port` pairs that may lie inside
 */
export function makeReachable(allowedInside: string[]): Reachable {
  const allowed = new Set(allowedInside);
  return async (host, port) => {
    const { address, family } = await resolveHost(host);
    const isInside =
      inside.check(address, family === 4 ? 'ipv4' : 'ipv6') || /^::ffff:/i.test(address) || isOwn(address);
    if (isInside && !allowed.has(`${host}:${port}`))
      throw new NotSent(`${host}:${port} lies inside the network and is not listed`);
    return { address, family };
  };
}

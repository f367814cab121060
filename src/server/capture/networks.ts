import { BlockList, isIPv4 } from 'node:net';

/** Lists made once for each list of a release. */
const made = new WeakMap<string[], BlockList>();

function listOf(networks: string[]): BlockList {
  const known = made.get(networks);
  if (known) return known;
  const list = new BlockList();
  for (const network of networks) {
    const [address = '', length] = network.split('/');
    const family = isIPv4(address) ? 'ipv4' : 'ipv6';
    if (length === undefined) list.addAddress(address, family);
    else list.addSubnet(address, Number(length), family);
  }
  made.set(networks, list);
  return list;
}

/** True where an IP address is of one of the networks. An IPv4 address may come written as IPv6 (RFC 4291, 2.5.5.2). */
export function isOfNetworks(address: string, networks: string[]): boolean {
  if (networks.length === 0 || address === '') return false;
  const plain = address.replace(/^::ffff:(?=\d+\.)/i, '');
  return listOf(networks).check(plain, isIPv4(plain) ? 'ipv4' : 'ipv6');
}

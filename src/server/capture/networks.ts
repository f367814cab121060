import { BlockList, isIPv4 } from 'node:net';
import { remembered } from '../remembered';

/** What tells whether an address is of a list, made once for each list of a release. */
const made = new WeakMap<string[], (address: string) => boolean>();

function makeCheck(networks: string[]): (address: string) => boolean {
  const list = new BlockList();
  for (const network of networks) {
    const [address = '', length] = network.split('/');
    const family = isIPv4(address) ? 'ipv4' : 'ipv6';
    if (length === undefined) list.addAddress(address, family);
    else list.addSubnet(address, Number(length), family);
  }
  return remembered((address) => {
    const plain = address.replace(/^::ffff:(?=\d+\.)/i, '');
    return list.check(plain, isIPv4(plain) ? 'ipv4' : 'ipv6');
  });
}

/** True where an IP address is of one of the networks. An IPv4 address may come written as IPv6 (RFC 4291, 2.5.5.2). */
export function isOfNetworks(address: string, networks: string[]): boolean {
  if (networks.length === 0 || address === '') return false;
  let check = made.get(networks);
  if (!check) made.set(networks, (check = makeCheck(networks)));
  return check(address);
}

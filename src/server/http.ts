import { lookup } from 'node:dns/promises';
import { BlockList, isIP } from 'node:net';
import { networkInterfaces } from 'node:os';
import { Agent, request } from 'undici';

export interface Answer {
  status: number;
  headers: Record<string, string>;
  body: string;
}
export interface Asked {
  method?: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  headers?: Record<string, string>;
  body?: string;
}
/** A call of which nothing left: the host is refused or unknown, or nobody took the connection. */
export class NotSent extends Error {}

/** Asks an outside address. Rejects with an Error whose message names what went wrong; NotSent where nothing was sent. */
export type HttpClient = (url: string, asked?: Asked) => Promise<Answer>;

const largestAnswer = 8 * 2 ** 20;
const timeLimit = 15_000;

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

/** What undici and Node say where no connection was made; whatever else goes wrong may do so after the call arrived. */
const unconnected = new Set([
  ...['ECONNREFUSED', 'ENOTFOUND', 'EAI_AGAIN', 'EHOSTUNREACH', 'ENETUNREACH', 'EADDRNOTAVAIL'],
  ...['UND_ERR_CONNECT_TIMEOUT', 'UND_ERR_INVALID_ARG'],
]);

/**
 * The one client for outgoing HTTP. It limits time and size, follows no redirects, refuses addresses inside the
 * network and this machine's own unless the operator lists their host and port, and connects to just the address it has checked.
 *
 * @param allowedInside `host:port` pairs that may lie inside
 */
export function makeHttpClient(allowedInside: string[]): HttpClient {
  const allowed = new Set(allowedInside);
  return async (url, { method = 'GET', headers = {}, body } = {}) => {
    const target = new URL(url);
    if (!/^https?:$/.test(target.protocol)) throw new NotSent(`${url} is no http(s) address`);
    const port = target.port || (target.protocol === 'https:' ? '443' : '80');
    const { address, family } = await resolveHost(target.hostname);
    const isInside =
      inside.check(address, family === 4 ? 'ipv4' : 'ipv6') || /^::ffff:/i.test(address) || isOwn(address);
    if (isInside && !allowed.has(`${target.hostname}:${port}`))
      throw new NotSent(`${target.hostname}:${port} lies inside the network and is not listed`);
    const dispatcher = new Agent({
      connect: {
        timeout: 5000,
        lookup: (_host, options, done) =>
          options.all ? done(null, [{ address, family }]) : done(null, address, family),
      },
    });
    try {
      const answer = await request(target, {
        method,
        headers,
        body: body ?? null,
        dispatcher,
        headersTimeout: timeLimit,
        bodyTimeout: timeLimit,
        signal: AbortSignal.timeout(timeLimit),
      }).catch((error: Error & { code?: string }) => {
        throw unconnected.has(error.code ?? '') ? new NotSent(error.message) : error;
      });
      const chunks: Buffer[] = [];
      let size = 0;
      for await (const chunk of answer.body as AsyncIterable<Buffer>) {
        size += chunk.length;
        if (size > largestAnswer) throw new Error(`the answer has more than ${largestAnswer} bytes`);
        chunks.push(chunk);
      }
      const flat = Object.entries(answer.headers).map(([name, value]) => [name, String(value)]);
      return {
        status: answer.statusCode,
        headers: Object.fromEntries(flat) as Record<string, string>,
        body: Buffer.concat(chunks).toString('utf8'),
      };
    } finally {
      void dispatcher.close().catch(() => undefined);
    }
  };
}

import { Agent, request } from 'undici';
import { makeReachable, NotSent } from './reachable';

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
/** Asks an outside address. Rejects with an Error whose message names what went wrong; NotSent where nothing was sent. */
export type HttpClient = (url: string, asked?: Asked) => Promise<Answer>;

const largestAnswer = 8 * 2 ** 20;
const timeLimit = 15_000;

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
  const reachable = makeReachable(allowedInside);
  return async (url, { method = 'GET', headers = {}, body } = {}) => {
    const target = new URL(url);
    if (!/^https?:$/.test(target.protocol)) throw new NotSent(`${url} is no http(s) address`);
    const port = target.port || (target.protocol === 'https:' ? '443' : '80');
    const { address, family } = await reachable(target.hostname, port);
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

import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { randomBytes } from 'node:crypto';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sirv from 'sirv';
import { AvrixError } from '../core/errors';
import type { Config } from './config';
import { holdBody } from './edge/bodies';
import { clientAddress } from './edge/client-address';
import { limitConnections, usualConnections } from './edge/connections';
import { makeEdge } from './edge/edge';
import { reply, replyError } from './edge/reply';
import { makeOpenShortLink } from './edge/short-links';
import { makeSnippet } from './edge/snippet';
import { makeTestSwitch } from './edge/test-switch';
import { warmEdge } from './edge/warm';
import { log } from './log';
import { endOn, openServices, stop } from './process';
import type { Services } from './services';

type AstroHandler = (
  request: IncomingMessage,
  response: ServerResponse,
  next: (error?: unknown) => void,
  locals: object,
) => void;

/** The built application beside this file: Astro's server and client, and the snippet's engine. */
const dist = join(dirname(fileURLToPath(import.meta.url)), '..');

/** On an empty database: one owner, whose password is said this once, by whoever started this process if somebody did. */
async function makeOwner({ people, context, config }: Services): Promise<{ mail: string; password: string } | null> {
  if ((await context.tables.people.count()) > 0) return null;
  const password = config.ownerPassword ?? randomBytes(9).toString('base64url');
  await people.create(config.ownerMail, 'Owner', password);
  if (!process.send)
    console.log(`\nYour owner account, shown this once:\n  email     ${config.ownerMail}\n  password  ${password}\n`);
  return { mail: config.ownerMail, password };
}

function headers(response: ServerResponse): void {
  response.setHeader('x-frame-options', 'DENY');
  response.setHeader('x-content-type-options', 'nosniff');
  response.setHeader('referrer-policy', 'same-origin');
  // Astro's pages replace this by their own, longer policy; it stands on everything else.
  response.setHeader('content-security-policy', "frame-ancestors 'none'");
}

/** Resolves once what was written has gone out, or the browser went away. */
const makeDrained = (response: ServerResponse) => async (): Promise<void> => {
  if (!response.writableNeedDrain || response.destroyed) return;
  await new Promise<void>((resolve) => response.once('drain', resolve).once('close', resolve));
};

function route(config: Config, services: Services, astro: AstroHandler) {
  const doors = makeEdge({
    ...services,
    snippet: makeSnippet(services.releases, services.openers, join(dist, 'snippet')),
    openShortLink: makeOpenShortLink(services.shortLinkBook, services.spool, config),
  });
  const edge = makeTestSwitch(services)(doors);
  const files = sirv(join(dist, 'client'), {
    immutable: true,
    maxAge: 31_536_000,
    extensions: [],
  });
  const edgeHost = new URL(config.edgeOrigin).host;
  const ownHost = new URL(config.origin).host;
  return async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const host = request.headers.host ?? '';
    if (host === edgeHost || host.startsWith('t.')) {
      await edge(request, response);
    } else if (host === ownHost) {
      headers(response);
      const address = clientAddress(request, config.trustedProxies);
      try {
        await holdBody(request);
      } catch (error) {
        return replyError(response, error);
      }
      const locals = { services, address, drained: makeDrained(response) };
      const fail = (error: unknown) => {
        log.error({ error: String(error) }, 'page failed');
        if (!response.headersSent) reply(response, 500, { 'content-type': 'text/plain' }, 'This page failed.');
      };
      /** What has no route is answered as every other problem: by its page, or by its document. */
      const notFound = () => {
        const path = request.url ?? '/';
        if (request.method !== 'GET' || path.startsWith('/api/'))
          return replyError(response, new AvrixError('AVX_NOT_FOUND', { what: 'endpoint' }));
        request.url = `/problem?status=404&business=${/^\/b\/([\w-]+)/.exec(path)?.[1] ?? ''}`;
        astro(request, response, fail, locals);
      };
      files(request, response, () => astro(request, response, (error) => (error ? fail(error) : notFound()), locals));
    } else {
      reply(response, 307, { location: config.origin + (request.url ?? '/') });
    }
  };
}

/** How long (ms) a request may take to arrive: its headers, all of it; looked at every second. */
const patience = { headersTimeout: 10_000, requestTimeout: 30_000, connectionsCheckingInterval: 1000 };

async function main(): Promise<void> {
  const services = await openServices();
  const { config } = services;
  const owner = await makeOwner(services);
  await warmEdge(services);
  const businesses = await services.context.tables.businesses.count();
  const { handler } = (await import(join(dist, 'server/entry.mjs'))) as { handler: AstroHandler };
  const take = route(config, services, handler);
  const server = createServer(patience, (request, response) => void take(request, response));
  limitConnections(server, { ...usualConnections, trusted: config.trustedProxies });
  server.on('error', (error: NodeJS.ErrnoException) =>
    stop(
      error.code === 'EADDRINUSE'
        ? `Port ${config.port} is taken. Set AVRIX_PORT to another one.`
        : `The server could not start: ${error.message}`,
    ),
  );
  server.listen(config.port, '127.0.0.1', () => {
    services.spoolWriter.start();
    services.runner.start();
    process.send?.({ businesses, owner });
  });
  endOn(async () => {
    server.close();
    server.closeAllConnections();
    await services.spool.close();
    await services.spoolWriter.stop();
    await services.runner.stop();
    await services.closeDatabases();
  });
}

await main();

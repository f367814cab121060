import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { serve } from '@hono/node-server';
import { freePorts } from '../../scripts/lib/ports.mjs';
import { makeBrindlepost } from '../../standins/brindlepost';
import { makeMeterhall } from '../../standins/meterhall';
import { makeOakledger } from '../../standins/oakledger';
import { makePlainAds } from '../../standins/plain-ads';
import { makeQuillsearch } from '../../standins/quillsearch';
import { makeTessaloop } from '../../standins/tessaloop';
import { makeWrenwick } from '../../standins/wrenwick';
import { setClock } from '../../standins/shared/clock';
import { readSurroundings } from '../../standins/shared/surroundings';

export interface Webhook {
  body: string;
  sent: string;
  seal: string;
}

/** Brindlepost, Meterhall, Oakledger, Plain Ads, Quillsearch, Tessaloop and Wrenwick as they ship, on ports of their own. */
export async function startOutside() {
  const folder = mkdtempSync(join(tmpdir(), 'outside-'));
  const base = await freePorts(5600 + 100 * Number(process.env.VITEST_POOL_ID ?? 0), 13);
  const around = readSurroundings({
    STANDINS_PORT: String(base),
    STANDINS_DATA: folder,
    STANDINS_SECRET: 's'.repeat(20),
    STANDINS_HOOK: `http://avrix-edge.localhost:${base + 12}/hook`,
  });
  const webhooks: Webhook[] = [];
  const oakledger = makeOakledger(around);
  const quillsearch = makeQuillsearch(around);
  const wrenwick = makeWrenwick(around);
  const tessaloop = makeTessaloop(around);
  const plainAds = makePlainAds(around);
  const meterhall = makeMeterhall(around);
  const brindlepost = makeBrindlepost(around);
  /** Calls that a service has begun to answer and not answered yet. */
  let underWay = 0;
  type App = { fetch: (request: Request, ...rest: never[]) => Response | Promise<Response> };
  const answering =
    ({ fetch }: App) =>
    async (request: Request, env: unknown): Promise<Response> => {
      underWay += 1;
      try {
        return await fetch(request, env as never);
      } finally {
        underWay -= 1;
      }
    };
  const listening = (server: { once(name: 'listening', done: () => void): unknown }) =>
    new Promise<void>((resolve) => server.once('listening', resolve));
  const servers = [
    serve({ fetch: answering(quillsearch.app), port: around.ports.quillsearch, hostname: '127.0.0.1' }),
    serve({ fetch: answering(wrenwick.app), port: around.ports.wrenwick, hostname: '127.0.0.1' }),
    serve({ fetch: answering(tessaloop.app), port: around.ports.tessaloop, hostname: '127.0.0.1' }),
    serve({ fetch: answering(plainAds.app), port: around.ports['plain-ads'], hostname: '127.0.0.1' }),
    serve({ fetch: answering(meterhall.app), port: around.ports.meterhall, hostname: '127.0.0.1' }),
    serve({ fetch: answering(oakledger.app), port: around.ports.oakledger, hostname: '127.0.0.1' }),
    createServer(async (request, response) => {
      const chunks: Buffer[] = [];
      for await (const chunk of request) chunks.push(chunk as Buffer);
      const header = (name: string) => String(request.headers[name]);
      webhooks.push({
        body: Buffer.concat(chunks).toString(),
        sent: header('oakledger-sent'),
        seal: header('oakledger-seal'),
      });
      response.writeHead(204).end();
    }).listen(base + 12, '127.0.0.1'),
  ] as Server[];
  await Promise.all([...servers.map(listening), brindlepost.listen()]);

  return {
    around,
    webhooks,
    underWay: () => underWay,
    /** Makes Quillsearch fail, as its page does. */
    async fault(kind: string, seconds = 1): Promise<void> {
      await quillsearch.app.request('/account/faults', {
        method: 'POST',
        body: new URLSearchParams({ kind, seconds: String(seconds) }),
      });
    },
    /** What a stand-in has stored of one kind, read from its own file: what a platform's ledger holds. */
    storedBy<Row extends { id: string }>(name: 'quillsearch' | 'wrenwick', kind: string): Row[] {
      const lines = readFileSync(join(folder, `${name}.jsonl`), 'utf8')
        .trim()
        .split('\n');
      const rows = lines.map((line) => JSON.parse(line) as { kind: string; row: Row; gone?: number });
      const known = new Map<string, Row>();
      for (const { kind: of, row, gone } of rows) {
        if (of !== kind) continue;
        if (gone === undefined) known.set(row.id, row);
        else known.delete(row.id);
      }
      return [...known.values()];
    },
    brindlepost,
    oakledger,
    quillsearch,
    wrenwick,
    tessaloop,
    plainAds,
    meterhall,
    moveTo: setClock,
    places: {
      quillsearch: around.originOf('quillsearch'),
      oakledger: around.originOf('oakledger'),
      wrenwick: around.originOf('wrenwick'),
      tessaloop: around.originOf('tessaloop'),
      key: around.key,
    },
    hosts: [
      ...(['quillsearch', 'oakledger', 'wrenwick', 'tessaloop', 'plain-ads', 'meterhall'] as const).map(
        (name) => `${name}.localhost:${around.ports[name]}`,
      ),
      `brindlepost.localhost:${around.smtpPort}`,
    ].join(','),
    end() {
      setClock(null);
      for (const server of servers) server.close();
      brindlepost.close();
      rmSync(folder, { recursive: true });
    },
  };
}

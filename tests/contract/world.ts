import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Hono } from 'hono';
import type { Answer, OutgoingRequest } from '../../src/core/outgoing';
import { makeMeterhall } from '../../standins/meterhall';
import { makeOakledger } from '../../standins/oakledger';
import { makePlainAds } from '../../standins/plain-ads';
import { makeQuillsearch } from '../../standins/quillsearch';
import { setClock } from '../../standins/shared/clock';
import { readSurroundings } from '../../standins/shared/surroundings';
import { makeTessaloop } from '../../standins/tessaloop';
import { makeWrenwick } from '../../standins/wrenwick';

/** 2027-02-01, 12:00 UTC. */
export const noon = Date.UTC(2027, 1, 1, 12);

/** A service as the tests of contracts reach it: without a network, by the requests that contracts write. */
export interface Service {
  ask(request: OutgoingRequest, token?: string): Promise<Answer>;
}
export interface PlatformWorld extends Service {
  /** An outcome that it knows, and when it may happen. */
  outcome: { outcome: string; happenedAt: number };
  /** What it says of a click that it never had. */
  unknown: string;
  /** Makes a click there. @returns its ID */
  click(): Promise<string>;
  /** Has somebody who is signed in with a mail address click on an ad; missing where nobody signs in. */
  clickAs?(mail: string): Promise<void>;
  /** How many outcomes it counts. */
  counted(): Promise<number>;
  /** What all that it counts is worth, in pence; missing where it takes no changes. */
  worth?(): Promise<number>;
  /** Fills in a form of its own and sends it from a place there; missing where it has none. */
  fillIn?(mail: string, place: string, isTest?: boolean): Promise<void>;
}
/** A place that takes events. */
export interface DestinationWorld extends Service {
  /** A name that it counts, and a click of its own where it knows clicks. */
  name: string;
  click(): Promise<string>;
  /** How many events it counts. */
  counted(): Promise<number>;
}
export type World = Awaited<ReturnType<typeof openWorld>>;

/** The services that ship, each in this process and with a store of its own. */
export async function openWorld() {
  const folder = mkdtempSync(join(tmpdir(), 'contract-'));
  setClock(noon);
  const around = readSurroundings({
    STANDINS_PORT: '9000',
    STANDINS_DATA: folder,
    STANDINS_SECRET: 's'.repeat(20),
  });
  const quillsearch = makeQuillsearch(around).app;
  const wrenwick = makeWrenwick(around).app;
  const oakledger = makeOakledger(around).app;
  const plainAds = makePlainAds(around).app;
  const meterhall = makeMeterhall(around).app;
  const tessaloop = makeTessaloop(around).app;
  const form = (body: string) => ({
    method: 'POST',
    body,
    headers: { 'content-type': 'application/x-www-form-urlencoded' },
  });
  await quillsearch.request('/account/outcomes', form('code=FLT-QUAL'));
  // A new outcome counts after some hours there.
  await quillsearch.request('/account/wait', form('hours=0'));

  const serviceOf =
    (app: Hono, token: string): Service['ask'] =>
    async ({ method, path, body }, given = token) => {
      const answer = await app.request(path.replace('{token}', given), {
        method,
        headers: {
          authorization: `Bearer ${given}`,
          'x-plain-key': given,
          ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      });
      return {
        status: answer.status,
        headers: Object.fromEntries(answer.headers.entries()) as Record<string, string>,
        body: await answer.text(),
      };
    };
  const clickOn = async (app: Hono, path: string, name: string) =>
    new URL((await app.request(path)).headers.get('location')!).searchParams.get(name)!;
  const worthOn = async (app: Hono) =>
    Math.round(Number(/id="worth"\s*>\s*GBP ([\d.]+)/.exec(await (await app.request('/account')).text())?.[1]) * 100);
  const askQuillsearch = serviceOf(quillsearch, around.key('quillsearch token'));

  const platforms: Record<string, PlatformWorld> = {
    quillsearch: {
      ask: askQuillsearch,
      unknown: 'no such click',
      outcome: { outcome: 'FLT-QUAL', happenedAt: noon + 60_000 },
      click: () => clickOn(quillsearch, '/click/uk-27q1-fleet-winterproof.hill-video', 'qsid'),
      async clickAs(mail) {
        const cookie = `signed-in=${encodeURIComponent(mail)}`;
        await quillsearch.request('/click/uk-27q1-fleet-winterproof.hill-video', { headers: { cookie } });
      },
      async counted() {
        const report = { method: 'GET', path: '/api/report/outcomes?from=2027-01-01&to=2027-02-28' } as const;
        const { rows } = JSON.parse((await askQuillsearch(report)).body) as { rows: { counted: number }[] };
        return rows.reduce((sum, { counted }) => sum + counted, 0);
      },
      async worth() {
        const report = { method: 'GET', path: '/api/report/outcomes?from=2027-01-01&to=2027-02-28' } as const;
        const { rows } = JSON.parse((await askQuillsearch(report)).body) as { rows: { worth: { GBP?: number } }[] };
        return Math.round(rows.reduce((sum, { worth }) => sum + (worth.GBP ?? 0), 0) * 100);
      },
    },
    'plain-ads': {
      ask: serviceOf(plainAds, around.key('plain-ads key')),
      unknown: 'unknown click',
      outcome: { outcome: 'FLT-QUAL', happenedAt: noon + 60_000 },
      click: () => clickOn(plainAds, '/out/a1', 'pcid'),
      async counted() {
        return Number(/<h1>(\d+) conversions/.exec(await (await plainAds.request('/account')).text())?.[1]);
      },
      worth: () => worthOn(plainAds),
    },
    tessaloop: {
      ask: serviceOf(tessaloop, around.key('tessaloop key')),
      unknown: 'nobody we know',
      outcome: { outcome: 'FLT-QUAL', happenedAt: noon + 60_000 },
      async fillIn(mail, place, isTest = false) {
        const sent = { name: 'Una', company: 'Sloan', mail, telephone: '', ad: 'rain-still', place };
        const body = new URLSearchParams({ ...sent, ...(isTest ? { test: 'on' } : {}) }).toString();
        await tessaloop.request('/form/F-1', form(body));
      },
      click: () => clickOn(tessaloop, '/out/rounds-rain', 'tsl'),
      async counted() {
        return Number(/<h1>(\d+) noted/.exec(await (await tessaloop.request('/account')).text())?.[1]);
      },
    },
    wrenwick: {
      ask: serviceOf(wrenwick, around.key('wrenwick token')),
      unknown: 'no such click',
      outcome: { outcome: 'paid', happenedAt: noon + 60_000 },
      click: () => clickOn(wrenwick, '/out/pedal-post', 'wwk'),
      async counted() {
        return Number(/<h1>(\d+) steps/.exec(await (await wrenwick.request('/account')).text())?.[1]);
      },
      worth: () => worthOn(wrenwick),
    },
  };
  return {
    platforms,
    destinations: {
      ...Object.fromEntries(
        Object.entries(platforms).map(([kind, { ask, click, counted, outcome }]) => [
          kind,
          { ask, click, counted, name: outcome.outcome },
        ]),
      ),
      meterhall: {
        name: 'fleet/ask/longtail',
        click: () => Promise.resolve(''),
        ask: serviceOf(meterhall, around.key('meterhall key')),
        async counted() {
          return Number(/<h1>(\d+) events/.exec(await (await meterhall.request('/account')).text())?.[1]);
        },
      },
    } as Record<string, DestinationWorld>,
    crms: { oakledger: { ask: serviceOf(oakledger, around.key('oakledger token')) } } as Record<string, Service>,
    key: around.key,
    end() {
      setClock(null);
      rmSync(folder, { recursive: true });
    },
  };
}

import { request as httpRequest } from 'node:http';
import { test as base, expect, type BrowserContext, type Locator, type Page } from '@playwright/test';
import { makeEnds } from '../../scripts/lib/program.mjs';
import { startEmptyWorld, startTestWorld, type TestWorld } from '../../scripts/lib/test-worlds.mjs';
import type { Hit } from '../../src/core/capture';
import { firstPlan } from '../../src/core/plan/first-plan';

/** The world of this worker: no other one looks into it. */
const world = (JSON.parse(process.env.TEST_WORLDS ?? '[]') as TestWorld[])[
  Number(process.env.TEST_PARALLEL_INDEX ?? 0)
];
const { port, standinsPort: standins, testSwitch, ownerPassword } = world ?? ({} as TestWorld);
const at = (name: string, number: number) => `http://${name}.localhost:${number}`;

let started: Awaited<ReturnType<typeof startTestWorld>>;
/** Cuts the application off in the midst and starts it again, at the time (ms) that it was. */
export async function restart(time: number): Promise<void> {
  await started.restartApplication();
  await avrixDoor('clock', { at: time });
}

/** Tests of one file share a world, which begins as the demo was loaded; or `isEmpty`, where nobody has made anything. */
export const test = base.extend<object, { world: void; isEmpty: boolean }>({
  isEmpty: [false, { scope: 'worker', option: true }],
  world: [
    async ({ isEmpty }, use) => {
      const ends = makeEnds();
      try {
        started = await (isEmpty ? startEmptyWorld : startTestWorld)(world!, ends);
        await beginEvening();
        await use();
      } finally {
        await ends.all();
      }
    },
    { scope: 'worker', auto: true, timeout: 60_000 },
  ],
});

export const places = {
  avrix: at('avrix', port),
  edge: at('avrix-edge', port),
  firstParty: at('t.larkmoor', port),
  larkmoor: at('larkmoor', standins),
  quillsearch: at('quillsearch', standins + 1),
  oakledger: at('oakledger', standins + 2),
  fleet: at('larkmoor-fleet', standins + 3),
  bellhour: at('bellhour', standins + 4),
  wrenwick: at('wrenwick', standins + 5),
  plainAds: at('plain-ads', standins + 6),
  plainCrm: at('plain-crm', standins + 7),
  meterhall: at('meterhall', standins + 8),
  tessaloop: at('tessaloop', standins + 9),
  brindlepost: at('brindlepost', standins + 10),
};
export const home = `${places.avrix}/b/larkmoor`;
export const owner = { mail: 'owner@larkmoor.example', password: ownerPassword };
/** The evening of the demo's last day. */
export const evening = Date.parse('2027-02-15T17:00:00Z');

export interface Answer {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  body: string;
}

/** Asks over plain HTTP; `*.localhost` is this machine, which Node's own resolver does not know. */
export function ask(
  url: string,
  {
    method = 'GET',
    headers = {},
    body = '',
  }: { method?: string; headers?: Record<string, string>; body?: string } = {},
): Promise<Answer> {
  const { host, port: number, pathname, search } = new URL(url);
  return new Promise((resolve, reject) => {
    const call = httpRequest(
      { host: '127.0.0.1', port: number, path: pathname + search, method, headers: { host, ...headers } },
      (answer) => {
        const chunks: Buffer[] = [];
        const done = () =>
          resolve({ status: answer.statusCode!, headers: answer.headers, body: Buffer.concat(chunks).toString() });
        answer.on('data', (chunk: Buffer) => {
          chunks.push(chunk);
          // A stream goes on; what it says first is its answer here.
          if (answer.headers['content-type'] !== 'text/event-stream') return;
          done();
          answer.destroy();
        });
        answer.on('end', done);
      },
    );
    call.on('error', reject);
    call.end(body);
  });
}

async function door(url: string, header: string, body: object): Promise<void> {
  const { status, body: text } = await ask(url, {
    method: 'POST',
    headers: { 'content-type': 'application/json', [header]: testSwitch },
    body: JSON.stringify(body),
  });
  expect(status, text).toBeLessThan(300);
}
export const avrixDoor = (name: string, body: object = {}) =>
  door(`${places.edge}/_test/${name}`, 'avrix-test-switch', body);

/** Moves the stand-ins' clock. */
export const standinsAt = (at: number) => door(`${places.larkmoor}/_test/clock`, 'standins-test-switch', { at });

/** When (ms) the evening of this world began, by this machine's clock. */
let began = 0;

/** Puts the application and the stand-ins on the demo's last evening; from then on it goes on by itself. */
async function beginEvening(): Promise<void> {
  began = Date.now();
  await avrixDoor('clock', { at: evening });
  await standinsAt(evening);
}

/** Puts a browser on the evening that the application and the stand-ins are on. */
export const setEvening = (context: BrowserContext): Promise<void> =>
  context.clock.setSystemTime(evening + Date.now() - began);

/** Signs a browser in, without the page for it: what that does has tests of its own. */
export async function signIn(page: Page, who: { mail: string; password: string } = owner): Promise<void> {
  const [name = '', value = ''] = (await signInByHand(who)).split(/=(.*)/s);
  expect(name, 'signed in').toBe('avx_session');
  await page.context().addCookies([{ name, value, url: places.avrix, httpOnly: true, sameSite: 'Lax' }]);
}

/** Signs in without a browser; returns the cookie. */
export async function signInByHand(who: { mail: string; password: string }): Promise<string> {
  const { headers } = await ask(`${places.avrix}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/x-www-form-urlencoded', origin: places.avrix },
    body: new URLSearchParams(who).toString(),
  });
  return String(headers['set-cookie']).split(';')[0]!;
}

/** A second business, empty, with an owner of its own; and people of Larkmoor with fewer rights. */
export const others = {
  stranger: { mail: 'owner@otherby.example', password: 'another long password' },
  reader: { mail: 'reader@larkmoor.example', password: 'reads a long password' },
  blind: { mail: 'partner@larkmoor.example', password: 'sees a long password' },
};
/** Makes them, once a run. */
export async function makeOthers(): Promise<void> {
  if ((await signInByHand(others.blind)).startsWith('avx_session=')) return;
  const { larkmoorSetup } = await import('../../demo/setup/business');
  const setup = larkmoorSetup({
    quillsearch: places.quillsearch,
    oakledger: places.oakledger,
    key: (name: string) => name,
  } as never);
  await avrixDoor('business', {
    ...setup,
    key: 'otherby',
    name: 'Otherby',
    websites: ['otherby.localhost'],
    accounts: [],
    release: { ...setup.release, content: { ...setup.release.content, plan: firstPlan() } },
  });
  await avrixDoor('person', { ...others.stranger, business: 'otherby', role: 'owner' });
  await avrixDoor('person', { ...others.reader, business: 'larkmoor', role: 'reader' });
  await avrixDoor('person', {
    ...others.blind,
    business: 'larkmoor',
    role: 'reader',
    seesPeople: false,
    seesMoney: false,
  });
}

/** Waits until a page's script runs, and that of what is on every page, which takes the keys. */
export const ready = (page: Page) =>
  expect(page.locator('html[data-ready]:is([data-keys], :not(:has([aria-label="Rehearse"])))')).toHaveCount(1);

/** Opens a page of Larkmoor and waits until its script runs: before, it takes neither keys nor typing. */
export async function open(page: Page, path: string): Promise<void> {
  await page.goto(path.startsWith('http') ? path : home + path);
  await ready(page);
}

/** Follows a link of Avrix to another of its pages, and waits until that one's script runs. */
export async function follow(page: Page, link: Locator): Promise<void> {
  await Promise.all([page.waitForEvent('domcontentloaded'), link.click()]);
  await ready(page);
}

/** Opens a page of the website and waits until its landing is taken: only then does it see what is pressed. */
export async function openRecorded(page: Page, path: string): Promise<void> {
  const taken = page.waitForResponse((response) => response.url().includes('/take/'));
  await page.goto(places.larkmoor + path);
  await taken;
}

/** What events a page told, by name and what they took along. */
export const eventsIn = (hits: ReturnType<typeof hitsOf>): string[] =>
  hits.flatMap((hit) => (hit.kind === 'event' ? [`${hit.event} ${hit.reads.map(({ value }) => value).join()}`] : []));

/** Makes the draft live under a name, and waits until the website's pages load it. */
export async function release(page: Page, name: string): Promise<void> {
  await expect(page.getByRole('link', { name: /^\d+ not live$/ })).toBeVisible();
  await open(page, '/not-live');
  await page.getByLabel('Call it').fill(name);
  await page.getByRole('button', { name: /^Make (it|\d+ rules) live$/ }).click();
  const said = page.getByText(/^Release \d+ is live\./);
  await expect(said).toBeVisible();
  const number = /\d+/.exec((await said.textContent())!)![0];
  await expect
    .poll(async () => (await ask(`${places.firstParty}/b/larkmoor.js`)).body)
    .toContain(`/r/larkmoor/${number}-`);
}

/** Every hit that a page, or a frame in it, sends from now on. */
export function hitsOf(page: Page): Hit[] {
  const hits: Hit[] = [];
  page.on('request', (request) => {
    const body = request.url().includes('/take/') ? request.postData() : null;
    if (body) hits.push(...(JSON.parse(body) as { hits: Hit[] }).hits);
  });
  return hits;
}

/** Sends a form of Larkmoor's as a visitor does. */
export async function enquire(page: Page, form: { path: string; button: string }, company: string): Promise<void> {
  await page.goto(places.larkmoor + form.path);
  await page.getByLabel('Your name').fill('Anna Lamb');
  await page.getByLabel('Business').fill(company);
  await page.getByLabel('Email').fill(`anna@${company.toLowerCase().replace(/\W+/g, '-')}.example`);
  await page.getByLabel('How many bikes').fill('12');
  await page.getByRole('button', { name: form.button }).click();
  await expect(page.getByRole('heading', { name: 'Thank you, we have it' })).toBeVisible();
}

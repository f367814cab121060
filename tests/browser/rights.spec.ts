import { readdirSync, readFileSync } from 'node:fs';
import { expect } from '@playwright/test';
import { endpoints } from '../../src/server/interface/endpoints';
import { bodies, business } from './bodies';
import { ask, makeOthers, others, owner, places, signInByHand, test } from './world';

interface Walked {
  path: string;
  method: 'GET' | 'POST';
}
/** Every page and endpoint there is, from the folder and the registry, so that a new one is walked without anybody thinking of it. */
const pages = readdirSync('src/pages', { recursive: true, encoding: 'utf8' })
  .filter((file) => /\.(astro|ts)$/.test(file) && file !== '404.astro')
  .map((file): Walked => {
    const method = readFileSync(`src/pages/${file}`, 'utf8').includes('export const POST') ? 'POST' : 'GET';
    return { path: '/' + file.replace(/\.(astro|ts)$/, '').replace(/(^|\/)index$/, ''), method };
  });
const open = new Set(['/sign-in', '/api/sign-in', '/problem', '/api/openapi.json', '/api/problems/[code]']);
// A link that was sent to somebody who may have no account yet; its own test takes it up.
open.add('/join/[token]');
open.add('/api/join/[token]');
// Its own test reads what it offers from its description; the other door leads to the registry.
open.add('/api/v1/[...path]');
open.add('/api/b/[business]/[...path]');
const walked = [
  ...pages.filter(({ path }) => !open.has(path)),
  ...endpoints.map(({ path, method }): Walked => ({
    path: business + path,
    method: method === 'get' ? 'GET' : 'POST',
  })),
];
const gets = walked.filter(({ method }) => method === 'GET');
const posts = walked.filter(({ method }) => method === 'POST');
const belongs = ({ path }: Walked) => /[[{]business[\]}]/.test(path);

/** Posts that change nothing of the business. */
const readOnly = new Set(
  [
    'plan/effect',
    'plan/sources/effect',
    'capture/effect',
    'capture/kept-traffic',
    'crm/effect',
    'leads/writes/effect',
    'leads/segments/effect',
    'leads/routines/effect',
    'leads/routines/try',
    'leads/emails/show',
    'outcomes/effect',
    'outcomes/pretend',
    'report-backs/postbacks/try',
    'report-backs/files/{file}/try',
    'events/effect',
    'rehearse',
    'plan/file',
    'plan/campaigns/pull',
    'plan/campaigns/file',
    'links/replace/preview',
    'links/file',
    'links/write',
    // A reader may make and revoke tokens too, but only their own.
    'tokens',
    'tokens/{token}/revoke',
  ].map((path) => `${business}/${path}`),
);

let enquiry = '';
let reportBack = '';
let file = '';
let strand = '';
let accountId = '';
/** Queries without which an endpoint says what is missing. */
const queries: Record<string, string> = {
  'connections/websites/check': '?registrable=larkmoor.localhost',
  'crm/offers': '?account=oakledger',
  'events/catalogue': '?account=quillsearch',
  find: '?text=bakery',
  'line/ripe': '?outcome=FLT-QUAL&from=2027-01-19&to=2027-02-15',
  'report-backs/files/bring': '?name=conversions.csv',
  'results/cost/file': '?account=quillsearch',
  'leads/import/file': '?list=X&handsOver=no&agreed=no&platform=',
};
const cookies: Record<string, string> = {};
const address = ({ path }: Walked, key: string) =>
  places.avrix +
  path
    .replace(/[[{]business[\]}]/, key)
    .replace(/[[{]enquiry[\]}]/, enquiry)
    .replace(/[[{]account[\]}]/, accountId)
    .replace(/[[{]reportBack[\]}]/, reportBack)
    .replace(/[[{]filed?[\]}]/, file)
    .replace(/[[{]sender[\]}]/, 'new')
    .replace(/[[{](strand|id|token|person|invitation|pointing|rehearsal)[\]}]/, strand) +
  (queries[path.slice(business.length + 1)] ?? '');

test.beforeAll(async () => {
  await makeOthers();
  for (const [name, who] of Object.entries({ owner, ...others })) cookies[name] = await signInByHand(who);
  const list = async (what: string) =>
    (await ask(`${places.avrix}/api/b/larkmoor/${what}`, { headers: { cookie: cookies.owner! } })).body;
  enquiry = (JSON.parse(await list('leads')) as { rows: { id: string }[] }).rows[0]!.id;
  const { accounts } = JSON.parse(await list('connections')) as { accounts: { id: string; kind: string }[] };
  accountId = accounts[0]!.id;
  const { routines } = JSON.parse(await list('leads/routines')) as { routines: { id: string }[] };
  queries['leads/routines/runs'] = `?id=${routines[0]!.id}`;
  queries['leads/forms/links'] = `?account=${accounts.find(({ kind }) => kind === 'tessaloop')!.id}`;
  reportBack = (JSON.parse(await list('report-backs')) as { rows: { id: string }[] }).rows[0]!.id;
  const brought = await ask(`${places.avrix}/api/b/larkmoor/report-backs/files/bring?name=conversions.csv`, {
    method: 'POST',
    headers: { cookie: cookies.owner!, origin: places.avrix },
    body: 'click_id,outcome,happened_at\n',
  });
  file = (JSON.parse(brought.body) as { id: string }).id;
  strand = (JSON.parse(await list('strands?hop=kept')) as { rows: { id: string }[] }).rows[0]!.id;
});

test('there is something to walk', () => expect(walked.length).toBeGreaterThan(80));

for (const one of walked) {
  test(`nobody sees ${one.method} ${one.path}`, async () => {
    const answer = await ask(address(one, 'larkmoor'), { method: one.method, headers: { origin: places.avrix } });
    if (one.path.startsWith('/api/'))
      expect(answer).toMatchObject({ status: 401, body: expect.stringContaining('AVX_SIGN_IN_NEEDED') });
    else {
      expect(answer.status).toBe(302);
      expect(answer.headers.location).toMatch(/^\/sign-in\?to=/);
    }
  });
}

// Nobody has written a file for another program in this world.
for (const one of gets.filter(({ path }) => !/\/(short-links|campaigns)\/\{id\}\/|files\/written$/.test(path))) {
  test(`a reader of the business sees ${one.path}`, async () => {
    const answer = await ask(address(one, 'larkmoor'), { headers: { cookie: cookies.reader! } });
    expect([200, 302]).toContain(answer.status);
  });
}

for (const one of gets.filter(belongs)) {
  test(`another business’s owner sees nothing of ${one.path}`, async () => {
    const headers = { cookie: cookies.stranger! };
    const answer = await ask(address(one, 'larkmoor'), { headers });
    expect([answer.status, answer.body.includes('No business is known as')]).toEqual([404, true]);
    // The same IDs under their own business lead to nothing either.
    if (/enquiry|strand[\]}]|\{(id|account)\}|websites\/check/.test(one.path))
      expect((await ask(address(one, 'otherby'), { headers })).status).toBe(404);
  });
}

for (const one of posts.filter((post) => belongs(post) && !readOnly.has(post.path))) {
  test(`a reader of the business changes nothing by ${one.path}`, async () => {
    const answer = await ask(address(one, 'larkmoor'), {
      method: 'POST',
      headers: { cookie: cookies.reader!, origin: places.avrix, 'content-type': 'application/json' },
      body: JSON.stringify(bodies[one.path] ?? {}),
    });
    expect(answer).toMatchObject({ status: 403, body: expect.stringContaining('AVX_ROLE_TOO_SMALL') });
  });
}

for (const one of posts) {
  test(`${one.path} takes nothing that another website sent`, async () => {
    for (const origin of ['https://evil.example', places.larkmoor, 'null']) {
      const answer = await ask(address(one, 'larkmoor'), {
        method: 'POST',
        headers: { cookie: cookies.owner!, origin },
      });
      expect(answer).toMatchObject({ status: 403, body: expect.stringContaining('AVX_ORIGIN_FOREIGN') });
    }
  });
}

test('an endpoint says by which method it is asked, and what is not there is not found', async () => {
  const headers = { cookie: cookies.owner!, origin: places.avrix };
  const wrongly = await ask(`${places.avrix}/api/b/larkmoor/line`, { method: 'POST', headers });
  expect(wrongly).toMatchObject({ status: 405, body: expect.stringContaining('GET') });
  const nothing = await ask(`${places.avrix}/api/b/larkmoor/lines`, { headers });
  expect(nothing).toMatchObject({ status: 404, body: expect.stringContaining('AVX_NOT_FOUND') });
});

test('who does not see people or money gets neither, nor finds by them', async () => {
  const read = async (path: string, cookie: string) =>
    (await ask(`${places.avrix}/api/b/larkmoor/${path}`, { headers: { cookie } })).body;
  const seen = JSON.parse(await read('leads', cookies.owner!)) as { rows: { company: string; name: string }[] };
  const hidden = await read('leads', cookies.blind!);
  for (const { name } of seen.rows.filter((row) => row.name)) expect(hidden).not.toContain(name);
  expect(hidden).toContain('name hidden');
  const company = seen.rows.find((row) => row.name)!.company;
  type Shown = { total: number; rows: { id: string }[] };
  const shown = async (path: string) => JSON.parse(await read(path, cookies.blind!)) as Shown;
  for (const [list, usual] of [
    ['leads?', 'sentAt'],
    ['strands?hop=landed&', 'first_at'],
  ]) {
    expect((await shown(`${list}find=${encodeURIComponent(company)}`)).total, list).toBe(0);
    // Nor do they stand in its order.
    const idsBy = async (sort: string) => (await shown(`${list}sort=${sort}&descending=no`)).rows.map(({ id }) => id);
    expect(await idsBy('company'), list).toEqual(await idsBy(usual!));
  }
  const traced = await read('strands?hop=told', cookies.owner!);
  const { enquiryId } = (JSON.parse(traced) as { rows: { enquiryId: string }[] }).rows[0]!;
  expect(await read(`leads/${enquiryId}`, cookies.owner!)).toMatch(/[£€]\d/);
  expect(await read(`leads/${enquiryId}`, cookies.blind!)).not.toMatch(/[£€]\d/);
  expect(await read('report-backs/conversions.csv', cookies.owner!)).toContain('click_id');
  expect(await read('report-backs/conversions.csv', cookies.blind!)).toContain('AVX_ROLE_TOO_SMALL');
});

test('an address that holds no ID is not found, not an error', async () => {
  const headers = { cookie: cookies.owner! };
  for (const path of ['leads/not-an-id', 'strands/not-an-id', `leads/${strand}`])
    expect((await ask(`${places.avrix}/api/b/larkmoor/${path}`, { headers })).status, path).toBe(404);
});

test('a session that was ended opens nothing any more', async () => {
  const cookie = await signInByHand(others.reader);
  const headers = { cookie, origin: places.avrix };
  expect((await ask(`${places.avrix}/api/b/larkmoor/line`, { headers })).status).toBe(200);
  expect((await ask(`${places.avrix}/api/sign-out`, { method: 'POST', headers })).status).toBe(303);
  expect((await ask(`${places.avrix}/api/b/larkmoor/line`, { headers })).status).toBe(401);
});

test('the session’s cookie cannot be read by scripts and is not sent from elsewhere', async () => {
  const { headers } = await ask(`${places.avrix}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/x-www-form-urlencoded', origin: places.avrix },
    body: new URLSearchParams({ ...owner, to: '//evil.example' }).toString(),
  });
  expect(String(headers['set-cookie'])).toMatch(/HttpOnly; SameSite=Lax/);
  expect(headers.location).toBe('/');
});

import { expect } from '@playwright/test';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { ask, makeOthers, open, others, owner, places, signInByHand, test } from './world';

interface Described {
  operationId: string;
  'x-right': 'read' | 'change';
  parameters: { name: string; in: string }[];
  responses: Record<string, { content: Record<string, { schema: object }> }>;
}
interface Operation extends Described {
  method: string;
  path: string;
}

const ajv = new Ajv2020({ strict: false, validateFormats: false });
let described: { openapi: string; components: { schemas: { Problem: object } } };
let operations: Operation[];
const tokens: Record<string, string> = {};
const ids: Record<string, string> = { number: '1' };

const api = (path: string, business = 'larkmoor') =>
  `${places.avrix}/api/v1/businesses/${business}${path.replace('/businesses/{business}', '')}`;
const bearer = (token: string) => ({ authorization: `Bearer ${token}` });
/** What each would take, so that only what is asked about is wrong. */
const account = {
  name: 'X',
  endpoint: 'https://api.example',
  timeZone: 'UTC',
  currency: 'EUR',
  token: '',
  webhookSecret: '',
};
const bodies: Record<string, object> = {
  changeAccount: account,
  setAccountState: { state: 'pause' },
  tryAccount: {},
};
const call = ({ method, path, operationId }: Operation, token: string | null, business?: string) =>
  ask(
    api(
      path.replace(/\{(\w+)\}/g, (all, name: string) => ids[name] ?? all),
      business,
    ),
    {
      method: method.toUpperCase(),
      headers: token === null ? {} : bearer(token),
      body: method === 'post' ? JSON.stringify(bodies[operationId] ?? { found: 'taken' }) : '',
    },
  );
const rowsOf = async (path: string, token = tokens.owner!) =>
  (JSON.parse((await ask(api(path), { headers: bearer(token) })).body) as { rows: Record<string, string>[] }).rows;

async function makeToken(
  who: { mail: string; password: string },
  wanted: object,
  business = 'larkmoor',
): Promise<string> {
  const headers = { cookie: await signInByHand(who), origin: places.avrix, 'content-type': 'application/json' };
  const body = JSON.stringify({ name: 'test', rights: 'read', days: 30, ...wanted });
  const answer = await ask(`${places.avrix}/api/b/${business}/tokens`, { method: 'POST', headers, body });
  expect(answer.status, answer.body).toBe(201);
  return (JSON.parse(answer.body) as { token: string }).token;
}

test.beforeAll(async () => {
  await makeOthers();
  described = JSON.parse((await ask(`${places.avrix}/api/openapi.json`)).body) as typeof described;
  const { paths } = described as unknown as { paths: Record<string, Record<string, Described>> };
  operations = Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ ...operation, method, path })),
  );
  const all = { seesPeople: 'on', seesMoney: 'on' };
  tokens.owner = await makeToken(owner, { ...all, rights: 'change' });
  tokens.reader = await makeToken(others.reader, all);
  tokens.blind = await makeToken(owner, {});
  tokens.stranger = await makeToken(others.stranger, { ...all, rights: 'change' }, 'otherby');
  ids.strand = (await rowsOf('/strands?hop=told&limit=1'))[0]!.id!;
  ids.lead = (await rowsOf('/leads?limit=1'))[0]!.id!;
  ids.account = (await rowsOf('/connections'))[0]!.id!;
  ids.reportBack = (await rowsOf('/report-backs?state=confirmed&limit=1'))[0]!.id!;
});

test('the API describes itself as OpenAPI 3.1, each operation with its own name and right', () => {
  expect(described.openapi).toBe('3.1.0');
  expect(operations.length).toBeGreaterThan(10);
  expect(new Set(operations.map((operation) => operation.operationId)).size).toBe(operations.length);
  for (const operation of operations) expect(['read', 'change']).toContain(operation['x-right']);
  const named = operations.flatMap(({ path }) => [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name!));
  expect(
    named.filter((name) => name !== 'business' && !(name in ids)),
    'the test knows every parameter',
  ).toEqual([]);
});

test('no operation answers without a token of this business, and says so as a problem', async () => {
  for (const operation of operations)
    for (const token of [null, 'avx_nonsense', tokens.stranger!]) {
      const answer = await call(operation, token);
      expect(answer.status, operation.operationId).toBe(401);
      expect(answer.headers['www-authenticate']).toBe('Bearer');
      expect(answer.headers['content-type']).toBe('application/problem+json');
      expect(ajv.validate(described.components.schemas.Problem, JSON.parse(answer.body)), answer.body).toBe(true);
    }
});

test('a token that may read gets what is described, and changes nothing', async () => {
  for (const operation of operations) {
    const answer = await call(operation, tokens.reader!);
    if (operation['x-right'] === 'change') {
      expect([answer.status, answer.body], operation.operationId).toEqual([403, expect.stringContaining('AVX_ROLE_')]);
      continue;
    }
    expect(answer.status, answer.body).toBe(200);
    const { schema } = operation.responses[200]!.content['application/json']!;
    expect(ajv.validate(schema, JSON.parse(answer.body)), `${operation.operationId}: ${ajv.errorsText()}`).toBe(true);
  }
});

test('nothing of one business is reached through the address of another', async () => {
  for (const operation of operations.filter(({ path }) => /\{(strand|lead|reportBack|account)\}/.test(path)))
    expect((await call(operation, tokens.stranger!, 'otherby')).status, operation.operationId).toBe(404);
});

test('a token that sees neither people nor money gets neither', async () => {
  const seen = await Promise.all(operations.map(async (operation) => (await call(operation, tokens.reader!)).body));
  const blind = (
    await Promise.all(operations.map(async (operation) => (await call(operation, tokens.blind!)).body))
  ).join();
  const names = (await rowsOf('/leads')).flatMap(({ name, company }) => [name, company]).filter(Boolean);
  expect(seen.join()).toContain(names[0]);
  for (const name of names) expect(blind).not.toContain(name);
  expect(seen.join()).toMatch(/"worth":\{"minor":\d+/);
  expect(blind).not.toMatch(/"minor":/);
  expect(blind).not.toMatch(/[£€]\d/);
});

test('a token that may change something says what stands in a platform, and is told why not', async () => {
  const decide = operations.find(({ operationId }) => operationId === 'decideReportBack')!;
  const answer = await call(decide, tokens.owner!);
  expect([answer.status, answer.body]).toEqual([409, expect.stringContaining('AVX_NOT_UNSURE')]);
  const wrong = await ask(api(decide.path.replace('{reportBack}', ids.reportBack!)), {
    method: 'POST',
    headers: bearer(tokens.owner!),
    body: '{"found": "perhaps"}',
  });
  expect([wrong.status, wrong.body]).toEqual([400, expect.stringContaining('"field":"found"')]);
});

test('a program makes a link by the plan, is told what is wrong with it, and finds it in the list', async () => {
  const make = async (tags: object) => {
    const body = JSON.stringify({ landing: `${places.larkmoor}/guide`, tags, place: 'made by a program' });
    const answer = await ask(api('/links'), { method: 'POST', headers: bearer(tokens.owner!), body });
    expect(answer.status, answer.body).toBe(200);
    return JSON.parse(answer.body) as { url: string; known: boolean; problems: object[] };
  };
  const tags = { utm_source: 'larkmoor-letter', utm_medium: 'email', utm_campaign: 'uk-27q1-fleet-letter' };
  const made = await make(tags);
  expect(made).toMatchObject({ known: false, problems: [] });
  expect(await make(tags)).toEqual({ ...made, known: true });
  expect((await make({ ...tags, utm_medium: 'partner' })).problems).toMatchObject([
    { tag: 'utm_medium', repaired: 'email' },
  ]);
  const rows = await rowsOf('/links?campaign=uk-27q1-fleet-letter&limit=1');
  expect(rows).toMatchObject([{ place: 'made by a program', campaign: 'uk-27q1-fleet-letter' }]);
});

test('a list read part by part has every row once, in the order of the whole', async () => {
  for (const path of ['/strands?hop=form_sent', '/leads?', '/links?', '/outcomes?', '/report-backs?']) {
    const whole = (await rowsOf(`${path}&limit=60`)).map(({ id }) => id);
    const parts: string[] = [];
    let cursor = '';
    do {
      const { body } = await ask(api(`${path}&limit=7${cursor && `&cursor=${cursor}`}`), {
        headers: bearer(tokens.owner!),
      });
      const { rows, next } = JSON.parse(body) as { rows: { id: string }[]; next: string | null };
      parts.push(...rows.map(({ id }) => id));
      cursor = next ?? '';
    } while (cursor && parts.length < whole.length);
    expect(parts.slice(0, whole.length), path).toEqual(whole);
    expect(new Set(parts).size).toBe(parts.length);
  }
});

test('every field that is wrong is named', async () => {
  const { status, body } = await ask(api('/strands?limit=0&hop=nowhere&sort=up&cursor=x'), {
    headers: bearer(tokens.owner!),
  });
  const { fields } = JSON.parse(body) as { fields: { field: string }[] };
  expect([status, fields.map(({ field }) => field).sort()]).toEqual([400, ['hop', 'limit', 'sort']]);
  const cursor = await ask(api('/strands?cursor=x'), { headers: bearer(tokens.owner!) });
  expect([cursor.status, cursor.body]).toEqual([400, expect.stringContaining('"field":"cursor"')]);
});

test('a token is made by hand, shown once, used, and revoked at once', async ({ page }) => {
  await page.goto(`${places.avrix}/sign-in`);
  await page.getByLabel('Email').fill(owner.mail);
  await page.getByLabel('Password').fill(owner.password);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await open(page, '/tokens');
  const make = page.getByRole('button', { name: 'Make the token' });
  await make.click();
  await expect(page.getByRole('alert').filter({ hasText: 'Say what the token is for' })).toBeVisible();
  await page.getByLabel('What is it for').fill('fleet desk board');
  await make.click();
  const token = await page.getByTestId('token').innerText();
  expect((await ask(api('/line'), { headers: bearer(token) })).status).toBe(200);
  await page.reload();
  await expect(page.getByText('fleet desk board')).toBeVisible();
  expect(await page.content()).not.toContain(token);
  const row = page.getByRole('row').filter({ hasText: 'fleet desk board' });
  await row.getByRole('button', { name: 'Revoke' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Revoke now' }).click();
  await expect(row).toContainText('revoked');
  expect((await ask(api('/line'), { headers: bearer(token) })).status).toBe(401);
});

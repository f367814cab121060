import { appendFileSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { createHmac } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { makeLarkmoor } from './larkmoor';
import { makeOakledger } from './oakledger';
import { makeQuillsearch } from './quillsearch';
import { setClock } from './shared/clock';
import { openStore } from './shared/store';
import { readSurroundings, type Surroundings } from './shared/surroundings';

let folder: string;
let around: Surroundings;
const now = Date.UTC(2027, 1, 1, 12);
const day = 86_400_000;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'standins-'));
  around = readSurroundings({ STANDINS_PORT: '5000', STANDINS_DATA: folder, STANDINS_SECRET: 's'.repeat(20) });
  setClock(now);
});
afterEach(() => {
  setClock(null);
  rmSync(folder, { recursive: true });
});

const json = (token: string, body?: object) => ({
  ...(body ? { method: 'POST', body: JSON.stringify(body) } : {}),
  headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
});

describe('a stand-in’s store', () => {
  it('survives a restart and a last line that was cut off', () => {
    const file = join(folder, 'x.jsonl');
    openStore(file).rows<{ id: string; n: number }>('a').put({ id: '1', n: 1 });
    openStore(file).rows<{ id: string; n: number }>('a').put({ id: '1', n: 2 });
    appendFileSync(file, '{"kind":"a","row":{"id":"2"');
    expect(openStore(file).rows('a').all()).toEqual([{ id: '1', n: 2 }]);
  });
});

describe('Quillsearch', () => {
  const token = () => around.key('quillsearch token');
  const row = (key: string, change: object = {}) => ({
    visit_key: key,
    outcome: 'FLT-QUAL',
    happened_at: new Date(now).toISOString(),
    worth: 135,
    currency: 'GBP',
    order: 'o1',
    ...change,
  });
  async function opened(clickAt = now - 5 * day) {
    const { app } = makeQuillsearch(around);
    setClock(clickAt);
    await app.request('/account/outcomes', { method: 'POST', body: new URLSearchParams({ code: 'FLT-QUAL' }) });
    const { headers } = await app.request('/click/uk-27q1-fleet-winterproof.hill-video');
    setClock(now);
    const landing = new URL(headers.get('location')!);
    const tell = async (...rows: object[]) => {
      const answer = await app.request('/api/outcomes', json(token(), { rows }));
      const { rows: answers } = (await answer.json()) as { rows: { answer: string }[] };
      return answers?.map((a) => a.answer) ?? answer.status;
    };
    return { app, landing, key: landing.searchParams.get('qsid')!, tell };
  }

  it('leads an ad’s click to its page with the names filled in and a fresh key', async () => {
    const { landing, app } = await opened();
    expect(landing.href).toContain(
      'http://larkmoor.localhost:5000/fleet?utm_source=quillsearch&utm_medium=paid-search&utm_campaign=uk-27q1-fleet-winterproof&utm_content=hill-video&qsid=Qs',
    );
    const again = await app.request('/click/uk-27q1-fleet-winterproof.hill-video');
    expect(again.headers.get('location')).not.toBe(landing.href);
  });

  it('answers each row on its own', async () => {
    const { key, tell } = await opened();
    expect(
      await tell(
        row(key),
        row(key),
        row('nobody', { order: 'o2' }),
        row(key, { order: 'o3', outcome: 'OTHER' }),
        row(key, { order: 'o4', happened_at: new Date(now - 6 * day).toISOString() }),
        row(key, { order: 'o5', happened_at: new Date(now + 90 * day).toISOString() }),
      ),
    ).toEqual([
      'taken',
      'told before',
      'no such click',
      'no such outcome',
      'happened before the click',
      'click too old',
    ]);
  });

  it('takes no outcome told more than twelve days late', async () => {
    const { key, tell } = await opened(now - 40 * day);
    expect(await tell(row(key, { happened_at: new Date(now - 13 * day).toISOString() }))).toEqual(['told too late']);
  });

  it('is strict: a wrong token, an unknown name or a worth as text is refused', async () => {
    const { app, key, tell } = await opened();
    expect((await app.request('/api/outcomes', json('wrong', { rows: [row(key)] }))).status).toBe(401);
    expect(await tell(row(key, { worth: '135' }))).toBe(400);
    expect(await tell(row(key, { colour: 'red' }))).toBe(400);
  });

  it('reports clicks and outcomes by click day in its own zone', async () => {
    const { app, key, tell } = await opened(Date.UTC(2027, 0, 31, 3));
    await tell(row(key));
    const report = async (what: string) =>
      (await (await app.request(`/api/report/${what}?from=2027-01-01&to=2027-02-28`, json(token()))).json()) as object;
    expect(await report('clicks')).toMatchObject({ rows: [{ day: '2027-01-30', clicks: 1 }] });
    expect(await report('outcomes')).toMatchObject({ rows: [{ day: '2027-01-30', outcome: 'FLT-QUAL', counted: 1 }] });
  });

  it('counts a new outcome only after its wait', async () => {
    const { app, key, tell } = await opened(now - 60_000);
    await tell(row(key));
    const counted = async () => {
      const answer = await app.request('/api/report/outcomes?from=2027-01-01&to=2027-02-28', json(token()));
      return ((await answer.json()) as { rows: object[] }).rows.length;
    };
    expect(await counted()).toBe(0);
    await app.request('/account/wait', { method: 'POST', body: new URLSearchParams({ hours: '0' }) });
    expect(await counted()).toBe(1);
  });

  it('takes 40 calls a minute, then says how long to wait', async () => {
    const { app, tell } = await opened();
    for (let i = 0; i < 40; i++) await tell(row('nobody'));
    const answer = await app.request('/api/outcomes', json(token(), { rows: [row('nobody')] }));
    expect([answer.status, answer.headers.get('retry-after')]).toEqual([429, '60']);
  });
});

describe('Oakledger', () => {
  const person = { name: 'Anna Lamb', mail: 'anna@oriel.example', telephone: '', company: 'Bakery Oriel' };
  let server: Server;
  let fails = 0;
  const hooks: { seal: string; sent: string; body: string }[] = [];

  beforeEach(async () => {
    hooks.length = 0;
    fails = 0;
    server = createServer(async (request, response) => {
      const chunks: Buffer[] = [];
      for await (const chunk of request) chunks.push(chunk as Buffer);
      const header = (name: string) => String(request.headers[name]);
      hooks.push({
        seal: header('oakledger-seal'),
        sent: header('oakledger-sent'),
        body: Buffer.concat(chunks).toString(),
      });
      response.writeHead(fails > 0 ? 500 : 204).end();
      fails -= 1;
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    around.hook = `http://avrix-edge.localhost:${(server.address() as AddressInfo).port}/hook`;
  });
  afterEach(() => server.close());

  const make = async (fields: Record<string, string>) => {
    const crm = makeOakledger(around);
    const token = around.key('oakledger token');
    const answer = await crm.app.request(
      '/api/deals',
      json(token, { person, fields, amounts: { lease_profit: { amount: '540', currency: 'GBP' } } }),
    );
    if (fails === 0) await crm.rest();
    return { crm, token, made: (await answer.json()) as { id: string; ignored: string[] } };
  };

  it('keeps the custom fields it knows, cut at their lengths, and names those it ignores', async () => {
    const { crm, token, made } = await make({ campaign: 'uk-27q1-fleet-winterproof', click_ref: 'Q1' });
    expect(made.ignored).toEqual(['click_ref']);
    const deal = await (await crm.app.request(`/api/deals/${made.id}`, json(token))).json();
    expect(deal).toMatchObject({
      stage: 'Asked',
      fields: { campaign: 'uk-27q1-fleet-wint', click_id: '' },
      person: { company: 'Bakery Oriel' },
    });
  });

  it('tells of each change by a sealed webhook, and again where it was not taken', async () => {
    fails = 1;
    const { crm, token, made } = await make({});
    await crm.rest();
    setClock(now + 60_000);
    await crm.app.request(`/api/deals/${made.id}/stage`, json(token, { stage: 'Fleet assessed' }));
    await crm.rest();
    expect(hooks.length).toBe(3);
    const [first, , third] = hooks;
    expect(JSON.parse(first!.body)).toMatchObject({ kind: 'deal made', deal: made.id });
    const seal = createHmac('sha256', around.key('oakledger webhook secret'))
      .update(`${third!.sent}.${third!.body}`)
      .digest('hex');
    expect(third!.seal).toBe(seal);
    const events = hooks.map((hook) => (JSON.parse(hook.body) as { event: string }).event);
    expect(new Set(events).size).toBe(2);
  });

  it('refuses an unknown stage, a wrong token and a broken amount, naming the place', async () => {
    const { crm, token, made } = await make({});
    expect((await crm.app.request(`/api/deals/${made.id}`, json('wrong'))).status).toBe(401);
    const moved = await crm.app.request(`/api/deals/${made.id}/stage`, json(token, { stage: 'Won' }));
    expect([moved.status, ((await moved.json()) as { error: string[] }).error[0]]).toEqual([
      422,
      expect.stringMatching(/^stage: /),
    ]);
  });
});

describe('the Larkmoor website', () => {
  it('carries the pasted line on every page, and both forms with their own hidden fields', async () => {
    around.script = 'http://t.larkmoor.localhost:4300/b/larkmoor.js';
    const { app } = makeLarkmoor(around);
    for (const path of ['/', '/fleet', '/fleet/call-back', '/shop', '/care', '/thank-you'])
      expect(await (await app.request(path)).text()).toContain(
        '<script src="http://t.larkmoor.localhost:4300/b/larkmoor.js" async>',
      );
    expect(await (await app.request('/fleet')).text()).toContain('name="click_id"');
    expect(await (await app.request('/fleet/call-back')).text()).toContain('name="click_ref"');
    expect((await app.request('/nowhere')).status).toBe(404);
  });

  it('shows a form again with what was typed and what is wrong', async () => {
    const { app } = makeLarkmoor(around);
    const answer = await app.request('/fleet', {
      method: 'POST',
      body: new URLSearchParams({ name: '"><b>', mail: 'no', bikes: '2' }),
    });
    const page = await answer.text();
    expect(answer.status).toBe(422);
    expect(page).toContain('a mail address is needed');
    expect(page).toContain('&quot;&gt;&lt;b&gt;');
  });
});

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { setClock } from './shared/clock';
import { readSurroundings, type Surroundings } from './shared/surroundings';
import { makeTessaloop } from './tessaloop';

/* What Tessaloop's account says of itself: what its ads cost, and what it counted by its own rules. */

let folder: string;
let around: Surroundings;
const noon = Date.UTC(2027, 1, 10, 12);
const day = 86_400_000;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'standins-'));
  around = readSurroundings({ STANDINS_PORT: '5000', STANDINS_DATA: folder, STANDINS_SECRET: 's'.repeat(20) });
  setClock(noon);
});
afterEach(() => {
  setClock(null);
  rmSync(folder, { recursive: true });
});

function open() {
  const { app } = makeTessaloop(around);
  const key = around.key('tessaloop key');
  const read = async (path: string, token = key) => {
    const answer = await app.request(path, { headers: { authorization: `Bearer ${token}` } });
    return { status: answer.status, body: (await answer.json().catch(() => null)) as { rows: object[] } | null };
  };
  return { app, key, read };
}
const days = 'from=2027-02-01&to=2027-02-28';

it('presses of ads and forms that were sent cost something, by the day and the ad; what nobody pays for does not', async () => {
  const { app, read } = open();
  await app.request('/out/rounds-rain');
  await app.request('/out/rounds-rain');
  await app.request('/out/workshop');
  setClock(noon + day);
  const sent = { name: 'Isla', company: 'Crumb', mail: 'isla@crumb.example', telephone: '', ad: 'tulips-clip' };
  await app.request('/form/F-2', { method: 'POST', body: new URLSearchParams(sent) });
  const { body } = await read(`/report/spent?${days}`);
  expect(body!.rows).toEqual([
    { day: '2027-02-10', campaign: 'uk-27q1-brand-rounds', ad: 'rain-still', presses: 2, pence: expect.any(Number) },
    { day: '2027-02-11', campaign: 'uk-27q1-brand-rounds', ad: 'tulips-clip', presses: 0, pence: expect.any(Number) },
  ]);
  for (const { pence } of body!.rows as { pence: number }[]) expect(pence).toBeGreaterThan(0);
  expect((await read('/report/spent?from=2027-03-01&to=2027-03-31')).body!.rows).toEqual([]);
});

it('what happened is counted on its day, with one in four who only saw a post', async () => {
  const { app, key, read } = open();
  const click = new URL((await app.request('/out/rounds-rain')).headers.get('location')!).searchParams.get('tsl');
  for (let n = 0; n < 4; n++)
    await app.request('/intake', {
      method: 'POST',
      headers: { authorization: `Bearer ${key}`, 'content-type': 'application/json' },
      body: JSON.stringify({
        ...{ ref: `R-${n}`, what: 'Fleet assessed', who: { tsl: click } },
        moment: new Date(noon - (n % 2) * day).toISOString(),
      }),
    });
  expect((await read(`/report/noted?${days}`)).body!.rows).toEqual([
    { day: '2027-02-10', what: 'Fleet assessed', noted: 2 },
    { day: '2027-02-09', what: 'Fleet assessed', noted: 3 },
  ]);
});

it('a wrong key, other days and another report are refused by name', async () => {
  const { read } = open();
  expect((await read(`/report/spent?${days}`, 'wrong')).status).toBe(401);
  expect(await read('/report/spent?from=1 Feb&to=2027-02-28')).toMatchObject({
    status: 400,
    body: { why: [expect.stringMatching(/^from: /)] },
  });
  expect((await read(`/report/clicks?${days}`)).status).toBe(404);
});

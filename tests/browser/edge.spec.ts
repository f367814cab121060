import { expect } from '@playwright/test';
import { ask, evening, places, test } from './world';

const collect = `${places.edge}/take/larkmoor`;
const post = (body: string, headers: Record<string, string> = {}) => ask(collect, { method: 'POST', body, headers });

test('the collector answers a wrong body, a large one and an unknown business with a reason', async () => {
  expect(await post('x')).toMatchObject({ status: 400, body: expect.stringContaining('AVX_BODY_NOT_JSON') });
  expect((await post('x'.repeat(33_000))).body).toContain('at most 32768 are taken');
  expect(await ask(`${places.edge}/take/nobody`, { method: 'POST', body: '{}' })).toMatchObject({
    status: 404,
    body: expect.stringContaining('No business is known as “nobody”'),
  });
  expect((await ask(collect)).status).toBe(405);
});

test('a snippet of before, which stands in some browser’s cache, is taken at the door and by the words it knows', async () => {
  const body = JSON.stringify({ sentAt: evening, hits: [{}] });
  const answer = await ask(`${places.edge}/collect/larkmoor`, { method: 'POST', body });
  expect([answer.status, answer.body]).toEqual([200, expect.stringContaining('"refused"')]);
  expect((await post(JSON.stringify({ hits: [{}] }))).body).toContain('clock: must be the page’s clock in ms');
});

test('only the business’s own hosts may read an answer', async () => {
  const origin = async (value: string) => (await post('{}', { origin: value })).headers['access-control-allow-origin'];
  expect(await origin(places.larkmoor)).toBe(places.larkmoor);
  expect(await origin('https://shop.larkmoor.localhost')).toBe('https://shop.larkmoor.localhost');
  expect(await origin('https://evil.example')).toBeUndefined();
  expect(await origin('https://evillarkmoor.localhost')).toBeUndefined();
});

test('the pasted line names the live release, which never changes', async () => {
  const line = await ask(`${places.firstParty}/b/larkmoor.js`);
  expect(line.headers['cache-control']).toContain('max-age=2');
  // The engine is named too, so that a newer one reaches browsers that hold this release.
  const [named] = /http[^"]+\/r\/larkmoor\/1-[0-9a-f]{8}(?:-[0-9a-f]{8})?\.js/.exec(line.body) ?? [];
  expect(named).toContain(`${places.firstParty}/r/larkmoor/1-`);
  for (const address of [named!, `${places.firstParty}/r/larkmoor/1.js`]) {
    const release = await ask(address);
    expect([release.status, release.headers['cache-control']]).toEqual([200, expect.stringContaining('immutable')]);
  }
  expect((await ask(`${places.firstParty}/r/larkmoor/99.js`)).status).toBe(404);
});

test('the interface’s host has no edge path, and the edge no interface', async () => {
  expect(
    (await ask(`${places.avrix}/take/larkmoor`, { method: 'POST', headers: { origin: places.avrix } })).status,
  ).toBe(404);
  expect((await ask(`${places.edge}/b/larkmoor`)).status).toBe(200);
  expect((await ask(`${places.edge}/sign-in`)).status).toBe(404);
});

test('the switch for tests opens to nobody who does not know it', async () => {
  expect((await ask(`${places.edge}/_test/clock`, { method: 'POST', body: '{"at":0}' })).status).toBe(404);
  expect(
    (
      await ask(`${places.edge}/_test/clock`, {
        method: 'POST',
        body: '{"at":0}',
        headers: { 'avrix-test-switch': 'guess' },
      })
    ).status,
  ).toBe(404);
});

test('a webhook without a right seal is refused', async () => {
  const hook = (headers: Record<string, string>) =>
    ask(`${places.edge}/hook/larkmoor/oakledger`, { method: 'POST', body: '{}', headers });
  expect(await hook({})).toMatchObject({ status: 401, body: expect.stringContaining('AVX_SEAL_WRONG') });
  expect((await ask(`${places.edge}/hook/larkmoor/nobody`, { method: 'POST' })).status).toBe(404);
});

import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { larkmoorSetup } from '../../demo/setup/business';
import { makeFaultPlace } from './place';

let place: Awaited<ReturnType<typeof makeFaultPlace>>;
beforeAll(async () => {
  place = await makeFaultPlace();
  const nowhere = 'http://nowhere.localhost:1';
  await place.door('business', {
    ...larkmoorSetup({ quillsearch: nowhere, oakledger: nowhere, key: (name: string) => name } as never),
    shortLinks: [{ path: 'fair', destination: 'http://larkmoor.localhost/fleet?utm_source=cargo-fair' }],
  });
});
afterAll(() => place.end());

function body(): { text: string; ids: string[] } {
  const visitor = v7();
  const hits = Array.from({ length: 4 }, () => ({
    id: v7(),
    at: Date.now(),
    release: 1,
    visitor,
    visit: visitor,
    referrer: '',
    kind: 'arrived',
    navigation: 'navigate',
    address: 'http://larkmoor.localhost/fleet?utm_source=quillsearch',
    why: 'campaign_values',
    kept: { works: true, first: null, last: null, clicks: [] },
  }));
  return { text: JSON.stringify({ clock: Date.now(), hits }), ids: hits.map((hit) => hit.id) };
}

/** `npm test -- --long` kills ten times. */
const rounds = process.env.TEST_LONG ? 10 : 1;
/** How long (ms) each page waits before it sends again. */
const betweenBodies = 25;

/**
 * Sends from 16 pages at once until `until` is done or 30 seconds are over; every answer is kept with what was sent.
 * @param until is given how many bodies were answered so far
 */
async function load(until: (answered: () => number) => Promise<unknown>) {
  const answered = new Map<string, string[]>();
  const statuses = new Map<number, number>();
  const end = Date.now() + 30_000;
  let over = false;
  const done = until(() => answered.size).finally(() => (over = true));
  const page = async () => {
    while (!over && Date.now() < end) {
      const { text, ids } = body();
      const status = await place.collect(text).then(
        (answer) => answer.status,
        () => 0,
      );
      statuses.set(status, (statuses.get(status) ?? 0) + 1);
      if (status === 204) answered.set(text, ids);
      await wait(betweenBodies);
    }
  };
  await Promise.all([...Array.from({ length: 16 }, page), done]);
  return { answered, statuses };
}

/** How many of these hits stand in the database, and how many stand there twice. */
async function stored(answered: Map<string, string[]>): Promise<{ missing: number; twice: number }> {
  await place.door('drain', {});
  const rows = await place.query<{ id: string; n: number }>('SELECT id, COUNT(*) AS n FROM hits GROUP BY id');
  const counts = new Map(rows.map((row) => [row.id, Number(row.n)]));
  const ids = [...answered.values()].flat();
  return {
    missing: ids.filter((id) => !counts.has(id)).length,
    twice: ids.filter((id) => (counts.get(id) ?? 0) > 1).length,
  };
}

describe('what was answered is never lost', () => {
  it(
    `when the application is killed under load, ${rounds} times, and the pages send again`,
    { timeout: 60_000 + rounds * 60_000 },
    async () => {
      for (let round = 0; round < rounds; round++) {
        // Every other time the database goes first.
        const { answered } = await load(async (soFar) => {
          await expect.poll(soFar, { timeout: 25_000 }).toBeGreaterThan(200 + 20 * round);
          if (round % 2) await place.stopDatabase();
          await place.kill();
        });
        if (round % 2) await place.startDatabase();
        await place.start();
        expect(await stored(answered), `round ${round + 1}`).toEqual({ missing: 0, twice: 0 });
        for (const text of [...answered.keys()].slice(-200)) expect((await place.collect(text)).status).toBe(204);
        expect(await stored(answered), `round ${round + 1}, sent again`).toEqual({ missing: 0, twice: 0 });
      }
    },
  );

  it('while the database is away for 20 seconds', async () => {
    const { answered, statuses } = await load(async (soFar) => {
      await expect.poll(soFar, { timeout: 5000 }).toBeGreaterThan(0);
      await place.stopDatabase();
      await wait(20_000);
      await place.startDatabase();
    });
    expect([...statuses.keys()]).toEqual([204]);
    expect(await stored(answered)).toEqual({ missing: 0, twice: 0 });
  });

  it('a short link is opened while the database is away, and each click is counted', async () => {
    const open = async () => (await place.get('/go/larkmoor/fair')).status;
    // Known from the start on, without having been opened before.
    await place.kill();
    await place.start();
    await place.stopDatabase();
    const during = await Promise.all(Array.from({ length: 20 }, open));
    await place.startDatabase();
    expect([...new Set(during)]).toEqual([302]);
    await place.door('drain', {});
    const [row] = await place.query<{ n: number }>('SELECT COUNT(*) AS n FROM short_clicks WHERE bot = FALSE');
    expect(Number(row!.n)).toBe(20);
  });

  it('when the disk of the spool is full: it says so, and goes on once there is room', async () => {
    await place.kill();
    const spool = join(place.folder, 'spool');
    mkdirSync(spool, { recursive: true });
    const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=512k', 'tmpfs', spool]);
    expect(mounted.status, 'a small disk can be mounted').toBe(0);
    try {
      await place.start();
      await place.collect(body().text);
      await place.stopDatabase();
      const answered = new Map<string, string[]>();
      let refusal = '';
      for (let i = 0; i < 2000 && !refusal; i++) {
        const { text, ids } = body();
        const answer = await place.collect(text);
        if (answer.status === 204) answered.set(text, ids);
        else refusal = `${answer.status} ${answer.body}`;
      }
      expect(refusal).toMatch(/^503 .*AVX_SPOOL_AWAY/);
      await place.startDatabase();
      await expect.poll(async () => (await place.collect(body().text)).status, { timeout: 20_000 }).toBe(204);
      expect(await stored(answered)).toEqual({ missing: 0, twice: 0 });
    } finally {
      await place.kill();
      spawnSync('umount', [spool]);
      await place.start();
    }
  });
});

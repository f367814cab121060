import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { larkmoorSetup } from '../../demo/setup/business';
import { makeFaultPlace } from './place';

const visitors = 120;
let place: Awaited<ReturnType<typeof makeFaultPlace>>;

beforeAll(async () => {
  place = await makeFaultPlace();
  const nowhere = 'http://nowhere.localhost:1';
  await place.door(
    'business',
    larkmoorSetup({ quillsearch: nowhere, oakledger: nowhere, key: (name: string) => name }),
  );
  await place.startSecond();
});
afterAll(() => place.end());

function arrival(visitor: string, n: number) {
  const at = Date.now();
  return {
    id: v7(),
    at,
    release: 1,
    visitor,
    visit: visitor,
    referrer: '',
    kind: 'arrived',
    navigation: 'navigate',
    address: `http://larkmoor.localhost/fleet?utm_source=quillsearch&utm_campaign=c${n % 3}&qsid=Q${n}`,
    why: 'click_id_new',
    kept: { works: true, first: null, last: null, clicks: [] },
  };
}
const countOf = async (sql: string) =>
  Number((await place.query<{ n: number }>(`SELECT COUNT(*) AS n FROM ${sql}`))[0]!.n);

describe('two applications on one database', () => {
  it('take what they are sent side by side, each hit once, and follow each visitor once', async () => {
    const doors = [place.collect, place.collectAtSecond];
    const bodies = Array.from({ length: visitors }, (_, n) => {
      const visitor = v7();
      return [0, 1].map((m) => JSON.stringify({ clock: Date.now(), hits: [arrival(visitor, 2 * n + m)] }));
    });
    // A visitor's two pages go to different applications; every tenth page is sent to both.
    await Promise.all(
      bodies.flatMap((pages, n) =>
        pages.map(async (page, m) => {
          expect((await doors[(n + m) % 2]!(page)).status).toBe(204);
          if (n % 10 === 0) expect((await doors[(n + m + 1) % 2]!(page)).status).toBe(204);
        }),
      ),
    );
    await expect.poll(() => countOf('hits'), { timeout: 20_000 }).toBe(2 * visitors);
    await expect.poll(() => countOf('strands'), { timeout: 20_000 }).toBe(2 * visitors);
    await expect.poll(() => countOf('work WHERE owner IS NOT NULL'), { timeout: 20_000 }).toBe(0);
    expect(await countOf('visits')).toBe(visitors);
    expect(await countOf('touches')).toBe(2 * visitors);
    expect(await countOf("standings WHERE way_in = 'none' AND state = 'lost' AND reached = 2")).toBe(2 * visitors);
    expect(await countOf('hops')).toBe(3 * 2 * visitors);
  });
});

import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Hit } from '../../src/core/capture';
import { pieceVisitors } from '../../src/server/capture/hits';
import { setClock } from '../../src/server/clock';
import { inTransaction, insertRows, markWork } from '../../src/server/db';
import type { Membership } from '../../src/server/people/people';
import { idAt, makeEditor, makePlace, noon, rowsOf, setUpLarkmoor } from './place';

const nowhere = 'http://nowhere.localhost:1';
let place: Awaited<ReturnType<typeof makePlace>>;
let larkmoor: Awaited<ReturnType<typeof setUpLarkmoor>>;
let member: Membership;
let made = 0;

beforeAll(async () => {
  place = await makePlace({ AVRIX_HITS_PER_VISITOR: '100' });
  larkmoor = await setUpLarkmoor(place.services, { quillsearch: nowhere, oakledger: nowhere, key: (key) => key });
  ({ member } = await makeEditor(place.services, larkmoor.id));
});
afterAll(async () => {
  setClock(null);
  await place.end();
});

const address = 'http://larkmoor.localhost:4310/fleet?utm_source=letter&utm_medium=email';
/** A hit that stands in the database already. */
function hitOf(visitor: string, rest: Partial<Hit> = {}) {
  const at = noon + ++made;
  const id = idAt(at, made);
  const body = {
    id,
    at,
    release: 1,
    visitor,
    visit: visitor,
    address,
    referrer: '',
    kind: 'arrived',
    navigation: 'navigate',
    why: 'campaign_values',
    kept: { works: true, first: null, last: null, clicks: [] },
    ...rest,
  } as Hit;
  const time = new Date(at);
  return {
    businessId: larkmoor.id,
    id,
    visitorId: visitor,
    kind: body.kind,
    host: 'larkmoor.localhost',
    at: time,
    pageAt: time,
    sentAt: time,
    receivedAt: time,
    releaseNumber: 1,
    page: '',
    browser: '',
    bot: false,
    ownNetwork: false,
    body,
  };
}
const store = (rows: ReturnType<typeof hitOf>[]) =>
  inTransaction(place.db, (transaction) => insertRows(place.services.context.tables.hits, rows, [], transaction));
const visitorOf = (n: number) => idAt(noon, 90_000 + n);
const rest = () => place.services.runner.runToRest();
const countOf = async (sql: string, values: unknown[] = []) =>
  Number((await rowsOf<{ n: number }>(place.db, `SELECT COUNT(*) AS n FROM ${sql}`, values))[0]!.n);

describe('browsers with very many hits', () => {
  it('are worked out in pieces that are bounded by hits and by bytes', async () => {
    const all = Array.from({ length: 24 }, (_, n) => visitorOf(n));
    for (const [n, visitor] of all.entries()) {
      const count = n < 1 ? 5300 : n < 3 ? 900 : 120;
      await store(Array.from({ length: count }, () => hitOf(visitor)));
    }
    const large = visitorOf(50);
    const referrer = `https://w.example/${'x'.repeat(3900)}`;
    await store(Array.from({ length: 4800 }, () => hitOf(large, { referrer })));

    const pieces = await pieceVisitors(place.db, larkmoor.id, [...all, large]);
    expect(pieces.flatMap(({ visitorIds }) => visitorIds).sort()).toEqual([...all, large].sort());
    for (const { visitorIds, mostHits } of pieces) {
      const hits = await countOf('hits WHERE visitor_id IN (?)', [visitorIds]);
      if (visitorIds.length > 1) expect(hits).toBeLessThanOrEqual(2000);
      expect(mostHits).toBeLessThanOrEqual(5000);
    }
    const alone = pieces.find(({ visitorIds }) => visitorIds.includes(large))!;
    expect(alone.visitorIds).toEqual([large]);
    expect(alone.mostHits).toBeLessThan(4300);
    expect(alone.mostHits).toBeGreaterThan(2000);

    await markWork(place.db, 'visitor', larkmoor.id, [...all, large], new Date(noon));
    await rest();
    expect(await countOf('visits')).toBe(25);
  });

  it('are taken so far a day, named and kept apart as far again, and refused from then on', async () => {
    const visitor = visitorOf(55);
    const before = await countOf('foreign_hits');
    const answers: number[] = [];
    for (let batch = 0; batch < 5; batch++) {
      const hits = Array.from({ length: 50 }, () => hitOf(visitor).body);
      const refused = await place.services.collect(larkmoor.known, JSON.stringify({ clock: noon, hits }), {}, noon);
      answers.push(refused.length);
      if (refused[0])
        expect(refused[0]).toMatchObject({ field: 'visitor', was: 'more than 100 hits of one visitor today' });
    }
    await place.services.spoolWriter.drain();
    expect(answers).toEqual([0, 0, 50, 50, 50]);
    expect(await countOf('hits WHERE visitor_id = ?', [visitor])).toBe(100);
    expect((await countOf('foreign_hits')) - before).toBe(100);
  });

  it('are stored by statements that the database takes, however many bytes they are together', async () => {
    const { foreignHits } = place.services.context.tables;
    const body = { filler: 'x'.repeat(2 * 2 ** 20) } as unknown as Hit;
    const rows = Array.from({ length: 12 }, (_, n) => ({
      businessId: larkmoor.id,
      id: idAt(noon, 70_000 + n),
      host: 'x.example',
      receivedAt: new Date(noon),
      body,
    }));
    await inTransaction(place.db, (transaction) => insertRows(foreignHits, rows, [], transaction));
    expect(await countOf("foreign_hits WHERE host = 'x.example'")).toBe(12);
  });
});

describe('a visitor who can never be worked out', () => {
  it('no longer is one for letters that grow in lower case', async () => {
    const visitor = visitorOf(60);
    const medium = encodeURIComponent('İ'.repeat(200));
    await store([hitOf(visitor, { address: `${address.replace('email', medium)}` })]);
    await markWork(place.db, 'visitor', larkmoor.id, [visitor], new Date(noon));
    await rest();
    expect(await countOf('touches WHERE visitor_id = ?', [visitor])).toBe(1);
    expect(await countOf("work WHERE kind = 'visitor'")).toBe(0);
  });

  it('is tried a few times, then kept apart with the reason and shown; others go on', async () => {
    const [broken, whole] = [visitorOf(61), visitorOf(62)];
    await store([hitOf(broken, { kept: null as never }), hitOf(whole)]);
    await markWork(place.db, 'visitor', larkmoor.id, [broken, whole], new Date(noon));
    for (let hours = 0; hours < 40; hours++) {
      setClock(noon + hours * 3_600_000);
      await rest();
    }
    expect(await countOf('touches WHERE visitor_id = ?', [whole])).toBe(1);
    expect(await countOf('work WHERE subject = ?', [broken])).toBe(0);
    const [row] = await rowsOf<{ kind: string; reason: string }>(
      place.db,
      'SELECT kind, reason FROM quarantine WHERE id = ?',
      [broken],
    );
    expect(row).toMatchObject({ kind: 'visitor', reason: expect.stringMatching(/null/) });
    const { rows } = await place.services.capture.faults(member);
    expect(rows.map(({ what }) => what).join()).toContain('1 visitor could not be worked out and is not counted');
    // So it is when somebody says so.
    expect(rows.find(({ again }) => again)).toMatchObject({ again: 'visitor' });
    expect(await place.services.stoppedWork.again(member, 'visitor')).toBe(1);
    expect([
      await countOf('work WHERE subject = ?', [broken]),
      await countOf('quarantine WHERE id = ?', [broken]),
    ]).toEqual([1, 0]);
    await rest();
    // Something new of it is tried again.
    await store([hitOf(broken)]);
    await markWork(place.db, 'visitor', larkmoor.id, [broken], new Date(noon));
    expect(await countOf('work WHERE subject = ?', [broken])).toBe(1);
  });
});

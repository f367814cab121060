import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { arrive, nothingKept, type Hit } from '../../src/core/capture';
import { rules } from '../../src/core/capture/rules.fixture';
import { strandListSchema } from '../../src/core/strands/schema';
import { setClock } from '../../src/server/clock';
import { makeDeriveVisitors } from '../../src/server/capture/derive';
import { everything } from '../../src/core/strands/schema';
import { addUp, idAt, makePlace, noon, rowsOf, setUpLarkmoor } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
let larkmoor: Awaited<ReturnType<typeof setUpLarkmoor>>;
beforeAll(async () => {
  place = await makePlace();
  const nowhere = 'http://nowhere.localhost:1';
  larkmoor = await setUpLarkmoor(place.services, { quillsearch: nowhere, oakledger: nowhere, key: (name) => name });
});
afterAll(() => place.end());

const hit = (n: number, change: object = {}): Hit => {
  const at = noon + n * 1000;
  const address = `http://larkmoor.localhost:4310/fleet?utm_source=quillsearch&utm_campaign=c1&qsid=Q${n}`;
  const visitor = idAt(noon, 77);
  const { kept, decision } = arrive(nothingKept(), { at, address, referrer: '', navigation: 'navigate' }, rules, {
    visitor,
    visit: visitor,
  });
  return {
    id: idAt(at, n),
    at,
    release: 1,
    visitor,
    visit: visitor,
    address,
    referrer: '',
    kind: 'arrived',
    navigation: 'navigate',
    why: decision.because,
    kept: { works: true, first: kept.first, last: kept.last, clicks: kept.clicks },
    ...change,
  } as Hit;
};
const send = async (hits: unknown[], sentAt = noon) => {
  const refused = await place.services.collect(larkmoor.known, JSON.stringify({ clock: sentAt, hits }));
  await place.services.spoolWriter.drain();
  return refused;
};
const count = async (table: string) =>
  Number((await rowsOf<{ n: number }>(place.db, `SELECT COUNT(*) AS n FROM ${table}`))[0]!.n);

describe('collecting hits', () => {
  it('stores each hit once, however often it is sent', async () => {
    expect(await send([hit(1), hit(2)])).toEqual([]);
    expect(await send([hit(2), hit(3)])).toEqual([]);
    expect(await count('hits')).toBe(3);
  });

  it('names what is wrong with one hit and takes the others', async () => {
    const before = await count('hits');
    const refused = await send([hit(4), { ...hit(5), visitor: 'nobody' }, hit(6, { release: 99 }), 'no hit']);
    expect(refused).toMatchObject([
      { id: hit(5).id, field: 'visitor', fix: 'It must be a UUID.' },
      { id: hit(6).id, field: 'release', was: 'release 99 does not exist' },
      { id: 'hit 4', field: 'hit' },
    ]);
    expect(await count('hits')).toBe(before + 1);
  });

  it('keeps hits from other hosts apart and names the host', async () => {
    const before = await count('hits');
    const refused = await send([hit(7, { address: 'https://copy.example/fleet' })]);
    expect(refused[0]).toMatchObject({ field: 'address', was: 'copy.example is no website of Larkmoor Cargo Bikes' });
    expect([await count('hits'), await count('foreign_hits')]).toEqual([before, 1]);
  });

  it('refuses a body that is no batch, with the place and what would be right', async () => {
    await expect(place.services.collect(larkmoor.known, 'x')).rejects.toMatchObject({ code: 'AVX_BODY_NOT_JSON' });
    await expect(send(Array.from({ length: 51 }, (_, i) => hit(i)))).rejects.toMatchObject({
      code: 'AVX_FIELD_WRONG',
      message: expect.stringMatching(/^hits: .*1 to 50 hits/),
    });
  });

  it('corrects a page’s clock that is far off, and keeps both times', async () => {
    const early = hit(8, { at: noon - 9 * 3_600_000, id: idAt(noon - 9 * 3_600_000, 8) });
    await send([early], noon - 9 * 3_600_000);
    const [row] = await rowsOf<{ at: Date; page_at: Date }>(place.db, 'SELECT at, page_at FROM hits WHERE id = ?', [
      early.id,
    ]);
    expect(Math.abs(row!.at.getTime() - noon)).toBeLessThan(60_000);
    expect(row!.page_at.getTime()).toBe(early.at);
  });
});

describe('deriving a visitor', () => {
  const visitor = idAt(noon, 77);
  const tables = ['visits', 'touches', 'strands', 'hops', 'enquiries'];
  const snapshot = async () => {
    const all: Record<string, object[]> = {};
    for (const table of tables) all[table] = await rowsOf(place.db, `SELECT * FROM ${table} ORDER BY 1, 2, 3, 4, 5, 6`);
    return all;
  };
  const derive = async () => {
    const work = makeDeriveVisitors(place.services.context, place.services.releases);
    return (await work(larkmoor.id, [visitor])).get(visitor)!;
  };

  it('gives the same rows when it is done again', async () => {
    await derive();
    const first = await snapshot();
    expect(first.strands!.length).toBeGreaterThan(2);
    await derive();
    expect(await snapshot()).toEqual(first);
  });

  it('takes in a late hit, and takes out what no longer follows', async () => {
    const before = await count('strands');
    await send([hit(40)]);
    await derive();
    expect(await count('strands')).toBe(before + 1);
    await place.db.query('DELETE FROM hits WHERE id = ?', { replacements: [hit(40).id] });
    await derive();
    expect(await count('strands')).toBe(before);
    expect(
      await rowsOf(
        place.db,
        'SELECT h.strand_id FROM hops h LEFT JOIN strands s ON s.id = h.strand_id WHERE s.id IS NULL',
      ),
    ).toEqual([]);
  });

  it('looks again when the visit is over, and then shows who left', async () => {
    expect((await derive())!.getTime()).toBeGreaterThan(noon);
    setClock(noon + 3_600_000);
    expect(await derive()).toBeNull();
    const states = await rowsOf<{ state: string }>(
      place.db,
      "SELECT DISTINCT state FROM standings WHERE way_in = 'none'",
    );
    expect(states).toEqual([{ state: 'left' }]);
    setClock(noon);
  });

  it('marks a click ID that a second browser brings as shared, and leaves it with the first', async () => {
    const other = idAt(noon, 78);
    await send([hit(1, { id: idAt(noon + 50_000, 50), at: noon + 50_000, visitor: other })]);
    await makeDeriveVisitors(place.services.context, place.services.releases)(larkmoor.id, [other]);
    const [row] = await rowsOf<{ shared: number; visitor_id: string }>(
      place.db,
      'SELECT shared, visitor_id FROM strands WHERE click_id = ?',
      ['Q1'],
    );
    expect([Boolean(row!.shared), row!.visitor_id]).toEqual([true, visitor]);
  });
});

describe('deriving many visitors at once', () => {
  it('gives the same rows as deriving them one by one, also where two of them brought the same click ID', async () => {
    const ids = [91, 92, 93].map((n) => idAt(noon, n));
    const tables = ['visits', 'touches', 'strands', 'hops', 'enquiries'];
    const snapshot = async () =>
      Promise.all(tables.map((table) => rowsOf(place.db, `SELECT * FROM ${table} ORDER BY 1, 2, 3, 4, 5, 6`)));
    const derive = makeDeriveVisitors(place.services.context, place.services.releases);
    const late = (n: number, visitor: string) =>
      hit(n, { visitor, id: idAt(noon + n * 1000, 400 + n), at: noon + n * 1000 });
    await send([late(70, ids[1]!), late(71, ids[0]!), late(72, ids[2]!)]);
    await send([hit(70, { visitor: ids[0], id: idAt(noon + 80_000, 500), at: noon + 80_000 })]);
    for (const id of [...ids].reverse()) await derive(larkmoor.id, [id]);
    const first = await snapshot();
    await derive(larkmoor.id, ids);
    expect(await snapshot()).toEqual(first);
    for (const table of tables) await place.db.query(`DELETE FROM ${table}`);
    await derive(larkmoor.id, [...ids, idAt(noon, 77), idAt(noon, 78)]);
    expect((await snapshot()).map((rows) => rows.length)).toEqual(first.map((rows) => rows.length));
  });
});

describe('a bot that names itself', () => {
  it('is kept and marked with all it did, and counted nowhere', async () => {
    const visitor = idAt(noon, 95);
    const agent = 'LinkLantern/1.2 (+bot; https://linklantern.example)';
    const line = async () =>
      place.services.strands.line((await business())!, role, { range: 'week', way: 'form', ...everything });
    const business = async () => (await place.services.context.tables.businesses.findOne())?.get({ plain: true });
    const role = { role: 'owner', seesPeople: true, seesMoney: true } as never;
    await addUp(place, larkmoor.id);
    const before = await line();
    const body = JSON.stringify({ clock: noon, hits: [hit(96, { visitor })] });
    expect(await place.services.collect(larkmoor.known, body, { agent })).toEqual([]);
    await place.services.spoolWriter.drain();
    await makeDeriveVisitors(place.services.context, place.services.releases)(larkmoor.id, [visitor]);
    await addUp(place, larkmoor.id);
    const after = await line();
    expect(after.columns[1]!.count).toBe(before.columns[1]!.count);
    expect([before.noCustomers, after.noCustomers]).toEqual([0, 1]);
    const asked = strandListSchema.parse({ mark: 'bot' });
    const list = await place.services.strands.strands(
      (await business())!,
      role,
      { range: 'week', way: 'form', ...everything },
      asked,
    );
    expect(list.rows.map((row) => row.clickId)).toEqual(['Q96']);
    expect(list.sentence.title).toBe('1 click not counted: says it is a bot.');
  });
});

describe('a release', () => {
  it('is checked before it is stored, and reads back as it was', async () => {
    const { releases } = place.services;
    const live = await releases.live(larkmoor.id);
    expect(live).toMatchObject({ number: 1, name: 'First set-up' });
    const thirtyDays = { name: 'Thirty days', note: '' };
    await expect(
      releases.make(larkmoor.id, { ...thirtyDays, content: { ...live.content, outcomes: [{}] } as never }),
    ).rejects.toThrow();
    await expect(releases.numbered(larkmoor.id, 2)).rejects.toMatchObject({ code: 'AVX_RELEASE_UNKNOWN' });
    const changed = structuredClone(live.content);
    changed.capture.keep.touchDays = 30;
    expect(await releases.make(larkmoor.id, { ...thirtyDays, content: changed })).toBe(2);
    expect((await releases.live(larkmoor.id)).content.capture.keep.touchDays).toBe(30);
    expect((await releases.numbered(larkmoor.id, 1)).content.capture.keep.touchDays).toBe(90);
  });
});

describe('a hit that the database refuses', () => {
  it('stands in quarantine with the reason, and every other one of its batch is stored', async () => {
    const before = await count('hits');
    const bad = hit(60, { at: 9e15, id: idAt(noon + 60_000, 60) });
    expect(await send([hit(61), hit(62), bad, hit(63), hit(64)])).toEqual([]);
    expect(await count('hits')).toBe(before + 4);
    const rows = await rowsOf<{ reason: string; body: string }>(place.db, 'SELECT reason, body FROM quarantine');
    expect(rows).toHaveLength(1);
    expect(rows[0]!.reason).toMatch(/datetime/i);
    expect(JSON.parse(rows[0]!.body)).toMatchObject({ hit: { id: bad.id } });
  });
});

describe('a page whose script did not clean its addresses', () => {
  it('loses what says who somebody is, on the disk as in the database, and counts it by page and name', async () => {
    const address = 'http://larkmoor.localhost:4310/fleet?utm_source=letter&email=anna%2540b.example';
    const sent = hit(400, { address, visitor: idAt(noon, 780), referrer: 'http://mail.example/me/anna@b.example' });
    expect(await send([sent])).toEqual([]);
    const [stored] = await rowsOf<{ body: Hit }>(place.db, `SELECT body FROM hits WHERE id = '${sent.id}'`);
    expect(JSON.stringify(stored)).not.toContain('anna');
    const derive = makeDeriveVisitors(place.services.context, place.services.releases);
    for (let times = 0; times < 2; times++) await derive(larkmoor.known.id, [sent.visitor]);
    const found = await rowsOf(
      place.db,
      `SELECT kind, name, page, detail FROM findings WHERE kind = 'pii' ORDER BY name`,
    );
    expect(found).toEqual([
      { kind: 'pii', name: 'email', page: 'larkmoor.localhost/fleet', detail: 'mail' },
      { kind: 'pii', name: 'path', page: 'larkmoor.localhost/fleet', detail: 'mail' },
    ]);
  });
});

describe('forms that pages tell of', () => {
  it('are kept as they stood last, whichever hit comes first and however often', async () => {
    const told = (n: number, at: number, names: string[]) =>
      hit(n, {
        kind: 'forms_seen',
        at,
        visitor: idAt(noon, 790),
        address: 'http://larkmoor.localhost:4310/fleet?x=1',
        forms: [{ form: 'ask', fields: names.map((name) => ({ name, hidden: true })), fills: [] }],
        navigation: undefined,
        why: undefined,
      } as never);
    const old = told(501, noon + 1000, ['click_ref']);
    const fresh = told(502, noon + 2000, ['click_id']);
    const rows = () =>
      rowsOf(place.db, 'SELECT form, page, fields, first_at AS firstAt, last_at AS lastAt FROM forms_seen');
    for (const sent of [[fresh], [old], [old, fresh]]) {
      expect(await send(sent)).toEqual([]);
      const seen = await rows();
      expect(seen).toMatchObject([
        { form: 'ask', page: 'larkmoor.localhost/fleet', fields: [{ name: 'click_id', hidden: true }] },
      ]);
    }
    expect(await rows()).toMatchObject([{ firstAt: new Date(noon + 1000), lastAt: new Date(noon + 2000) }]);
  });
});

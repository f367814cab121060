import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  claimWork,
  connect,
  dueLanes,
  finishWork,
  giveUpWork,
  inTransaction,
  markWork,
  migrate,
  putBackWork,
  renewWork,
} from '../../src/server/db';
import { monthBoundary } from '../../src/server/db/migrations/0002-traffic';
import { setClock } from '../../src/server/clock';
import { day, idAt, makePlace, noon, rowsOf } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
beforeAll(async () => void (place = await makePlace()));
afterAll(() => place.end());

const business = idAt(noon, 1);

describe('the database', () => {
  it('keeps values that differ in case, accent and trailing space apart, and gives them back as they were', async () => {
    const { tables } = place.services.context;
    const ids = ['Paid_Social', 'paid_social', 'Païd_social', 'paid_social ', 'Paid_social'];
    await tables.strands.bulkCreate(
      ids.map((clickId, i) => ({
        businessId: business,
        id: idAt(noon, i),
        kind: 'click' as const,
        platform: 'quillsearch',
        clickId,
        firstAt: new Date(noon),
        source: clickId,
        medium: '',
        campaign: '',
        content: '',
        visitorId: idAt(noon, 9),
      })),
    );
    const groups = await rowsOf<{ source: string; n: number }>(
      place.db,
      'SELECT source, COUNT(*) AS n FROM strands GROUP BY source',
    );
    expect(groups.map((row) => row.source).sort()).toEqual([...ids].sort());
    const [found] = await rowsOf<{ click_id: string }>(place.db, 'SELECT click_id FROM strands WHERE click_id = ?', [
      'paid_social',
    ]);
    expect(found!.click_id).toBe('paid_social');
  });

  it('finds people by name without regard to case and accents', async () => {
    const { people } = place.services;
    await people.create('Zoë@Oriel.example', 'Zoë', 'a long password');
    const [row] = await rowsOf(place.db, 'SELECT name FROM people WHERE name LIKE ?', ['ZOE']);
    expect(row).toEqual({ name: 'Zoë' });
  });

  it('has native UUID columns and one partition for each month of hits', async () => {
    const columns = await rowsOf<{ DATA_TYPE: string }>(
      place.db,
      "SELECT DATA_TYPE FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = DATABASE() AND COLUMN_NAME IN ('id', 'business_id', 'strand_id') AND TABLE_NAME <> 'migrations'",
    );
    expect(new Set(columns.map((column) => column.DATA_TYPE))).toEqual(new Set(['uuid']));
    const at = new Date(noon);
    await place.db.query(
      `INSERT INTO hits (business_id, id, visitor_id, kind, host, at, page_at, sent_at, received_at, release_number, body)
       VALUES (?,?,?,?,?,?,?,?,?,?,?)`,
      {
        replacements: [business, idAt(noon, 1), idAt(noon, 9), 'arrived', 'a', at, at, at, at, 1, '{}'],
      },
    );
    expect(await rowsOf(place.db, 'SELECT kind FROM hits PARTITION (before_2027_03)')).toEqual([{ kind: 'arrived' }]);
    expect(monthBoundary(2027, 1) < idAt(noon, 0)).toBe(true);
  });

  it('begins every unique key of a business’s rows with the business', async () => {
    const keys = await rowsOf<{ t: string; c: string }>(
      place.db,
      `SELECT TABLE_NAME AS t, COLUMN_NAME AS c FROM information_schema.STATISTICS
       WHERE TABLE_SCHEMA = DATABASE() AND NON_UNIQUE = 0 AND SEQ_IN_INDEX = 1`,
    );
    const ofNobody = new Set(['people', 'sessions', 'sign_in_tries', 'businesses', 'leases', 'migrations']);
    expect(keys.filter(({ t, c }) => c !== 'business_id' && !ofNobody.has(t))).toEqual([]);
  });

  it('is brought up to date by several processes at once without harm', async () => {
    const others = [connect(place.url), connect(place.url)];
    await expect(Promise.all(others.map((db) => migrate(db)))).resolves.toHaveLength(2);
    await Promise.all(others.map((db) => db.close()));
  });
});

describe('a transaction', () => {
  it('runs again after a deadlock, and both sides end well', async () => {
    await place.db.query('CREATE TABLE pair (id INT PRIMARY KEY, n INT NOT NULL)');
    await place.db.query('INSERT INTO pair VALUES (1, 0), (2, 0)');
    const arrived: (() => void)[] = [];
    const meet = () =>
      new Promise<void>((resolve) => {
        arrived.push(resolve);
        if (arrived.length >= 2) for (const go of arrived) go();
      });
    let runs = 0;
    const both = (first: number, second: number) =>
      inTransaction(place.db, async (transaction) => {
        runs += 1;
        await place.db.query('UPDATE pair SET n = n + 1 WHERE id = ?', { replacements: [first], transaction });
        await meet();
        await place.db.query('UPDATE pair SET n = n + 1 WHERE id = ?', { replacements: [second], transaction });
      });
    await Promise.all([both(1, 2), both(2, 1)]);
    expect(runs).toBeGreaterThan(2);
    expect(await rowsOf(place.db, 'SELECT n FROM pair ORDER BY id')).toEqual([{ n: 2 }, { n: 2 }]);
  });

  it('whose process stands still loses its locks, and what it wrote', async () => {
    await place.db.query('CREATE TABLE held (id INT PRIMARY KEY, n INT NOT NULL)');
    await place.db.query('INSERT INTO held VALUES (1, 0)');
    const still = await place.db.transaction();
    await place.db.query('UPDATE held SET n = 1', { transaction: still });
    await place.db.query('UPDATE held SET n = n + 5');
    expect(await rowsOf(place.db, 'SELECT n FROM held')).toEqual([{ n: 5 }]);
    await expect(still.commit()).rejects.toThrow();
  });
});

describe('background work', () => {
  const subjects = Array.from({ length: 40 }, (_, i) => idAt(noon, 100 + i));

  it('is given to one worker only, however many ask at once', async () => {
    await markWork(place.db, 'enquiry', business, subjects, new Date(noon));
    const claims = await Promise.all(Array.from({ length: 8 }, () => claimWork(place.db, 'enquiry', 10)));
    const claimed = claims.flat().map((item) => item.subject);
    expect(new Set(claimed).size).toBe(claimed.length);
    expect(claimed.length).toBe(40);
    await finishWork(
      place.db,
      claims.flat().map((item) => ({ item, again: null })),
    );
    expect(await claimWork(place.db, 'enquiry', 10)).toEqual([]);
  });

  it('is done again where it was marked while it ran', async () => {
    const one = idAt(noon, 500);
    await markWork(place.db, 'enquiry', business, [one], new Date(noon));
    const [item] = await claimWork(place.db, 'enquiry', 1);
    await markWork(place.db, 'enquiry', business, [one], new Date(noon));
    await finishWork(place.db, [{ item: item!, again: null }]);
    const [again] = await claimWork(place.db, 'enquiry', 1);
    expect(again?.subject).toBe(one);
    await finishWork(place.db, [{ item: again!, again: null }]);
  });

  it('is finished by its holder only: who lost it to time changes nothing of it', async () => {
    const one = idAt(noon, 502);
    await markWork(place.db, 'enquiry', business, [one], new Date(noon));
    const [slow] = await claimWork(place.db, 'enquiry', 1);
    await place.db.query('UPDATE work SET lease_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND WHERE subject = ?', {
      replacements: [one],
    });
    const [quick] = await claimWork(place.db, 'enquiry', 1);
    expect(await renewWork(place.db, [slow!])).toEqual([]);
    await finishWork(place.db, [{ item: slow!, again: null }]);
    await putBackWork(place.db, slow!, new Date(noon + day), 'too late');
    await giveUpWork(place.db, slow!, 'too late');
    expect(await renewWork(place.db, [quick!])).toEqual([quick]);
    expect(await rowsOf(place.db, 'SELECT attempts FROM work WHERE subject = ?', [one])).toEqual([{ attempts: 0 }]);
    await finishWork(place.db, [{ item: quick!, again: new Date(noon + day) }]);
    expect(await claimWork(place.db, 'enquiry', 1)).toEqual([]);
    await place.db.query('DELETE FROM work WHERE subject = ?', { replacements: [one] });
  });

  it('is claimed lane by lane, those due longest first', async () => {
    const [a, b, c] = [510, 511, 512].map((n) => idAt(noon, n)) as [string, string, string];
    await markWork(place.db, 'page_check', business, [a], new Date(noon), null, 'a.example');
    await markWork(place.db, 'page_check', business, [b, c], new Date(noon - 1000), null, 'b.example');
    const lane = (name: string) => ({ businessId: business, lane: name });
    expect(await dueLanes(place.db, 'page_check', [], 9)).toEqual([lane('b.example'), lane('a.example')]);
    expect(await dueLanes(place.db, 'page_check', [lane('b.example')], 9)).toEqual([lane('a.example')]);
    const items = await claimWork(place.db, 'page_check', 9, lane('b.example'));
    expect(items.map(({ subject }) => subject).sort()).toEqual([b, c]);
    await giveUpWork(place.db, items[0]!, 'the page is gone');
    expect(
      await rowsOf(place.db, "SELECT reason, JSON_VALUE(body, '$.lane') AS lane FROM quarantine WHERE id = ?", [
        items[0]!.subject,
      ]),
    ).toEqual([{ reason: 'the page is gone', lane: 'b.example' }]);
    await place.db.query("DELETE FROM work WHERE kind = 'page_check'");
  });

  it('waits until it is due, and keeps what went wrong', async () => {
    const one = idAt(noon, 501);
    await markWork(place.db, 'enquiry', business, [one], new Date(noon));
    const [item] = await claimWork(place.db, 'enquiry', 1);
    await putBackWork(place.db, item!, new Date(noon + day), 'the CRM answered 500');
    expect(await claimWork(place.db, 'enquiry', 1)).toEqual([]);
    setClock(noon + day + 1);
    const [later] = await claimWork(place.db, 'enquiry', 1);
    expect(later).toMatchObject({ subject: one, attempts: 1 });
    await finishWork(place.db, [{ item: later!, again: null }]);
    setClock(noon);
  });
});

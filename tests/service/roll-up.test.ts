import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { setClock } from '../../src/server/clock';
import { inTransaction } from '../../src/server/db';
import { markMoments } from '../../src/server/rollups/marks';
import { makeRollUp } from '../../src/server/rollups/roll-up';
import { sums } from '../../src/server/rollups/sums';
import { day, idAt, makePlace, noon, rowsOf, setUpLarkmoor, standAt } from './place';

const nowhere = 'http://nowhere.localhost:1';
let place: Awaited<ReturnType<typeof makePlace>>;
let business: string;
const rollUp = () => makeRollUp(place.services.context)(business);

beforeAll(async () => {
  place = await makePlace();
  business = (await setUpLarkmoor(place.services, { quillsearch: nowhere, oakledger: nowhere, key: (key) => key })).id;
});
afterAll(() => place.end());

let made = 0;
async function strand(at: number, rest: object = {}): Promise<string> {
  const id = idAt(at, ++made);
  await place.services.context.tables.strands.create({
    businessId: business,
    id,
    kind: 'click',
    platform: 'quillsearch',
    clickId: `Qs${made}`,
    firstAt: new Date(at),
    source: 'quillsearch',
    medium: 'paid-search',
    campaign: 'c1',
    content: '',
    utmId: '',
    visitorId: id,
    marked: '',
    shared: false,
    ...rest,
  } as never);
  const row = { businessId: business, id, firstAt: new Date(at) };
  await standAt(place, row, { reached: 3, state: 'left', reason: null });
  return id;
}
const mark = (...moments: number[]) =>
  inTransaction(place.db, (transaction) => markMoments(place.db, business, moments, transaction, 0));
const counted = () =>
  rowsOf<{ zone: string; day: string; n: number }>(
    place.db,
    'SELECT zone, CAST(day AS CHAR) AS day, CAST(SUM(strands) AS INT) AS n FROM strand_days GROUP BY zone, day ORDER BY zone, day',
  );

describe('sums by day', () => {
  it('are of the business’s days and of those of its accounts, everything there is at first', async () => {
    // 21:00 of 31 January in New York, 02:00 of 1 February in London.
    await strand(Date.UTC(2027, 1, 1, 2));
    await strand(noon);
    await strand(noon - 40 * day);
    await rollUp();
    expect(await counted()).toEqual([
      { zone: 'America/New_York', day: '2026-12-23', n: 1 },
      { zone: 'America/New_York', day: '2027-01-31', n: 1 },
      { zone: 'America/New_York', day: '2027-02-01', n: 1 },
      { zone: 'Europe/London', day: '2026-12-23', n: 1 },
      { zone: 'Europe/London', day: '2027-02-01', n: 2 },
    ]);
  });

  it('are written anew for days that something changed of, and the same again changes nothing', async () => {
    const before = await counted();
    await rollUp();
    expect(await counted()).toEqual(before);
    const id = await strand(noon + day);
    await mark(noon + day);
    setClock(noon + day);
    await rollUp();
    expect((await counted()).at(-1)).toEqual({ zone: 'Europe/London', day: '2027-02-02', n: 1 });
    await place.db.query('DELETE FROM strands WHERE id = ?', { replacements: [id] });
    await mark(noon + day);
    await rollUp();
    expect(await counted()).toEqual(before);
    expect(await rowsOf(place.db, 'SELECT id FROM roll_up_marks')).toEqual([]);
    setClock(noon);
  });

  it('leave out nothing that is committed while they are written', async () => {
    const write = async (n: number) => {
      const at = noon + 3 * day + n;
      await inTransaction(place.db, async (transaction) => {
        await place.services.context.tables.strands.create(
          {
            businessId: business,
            id: idAt(at, 900 + n),
            kind: 'click',
            platform: 'quillsearch',
            clickId: `R${n}`,
            firstAt: new Date(at),
            source: 's',
            medium: 'm',
            campaign: `c${n % 3}`,
            content: '',
            utmId: '',
            visitorId: idAt(at, 900 + n),
            marked: '',
            shared: false,
          } as never,
          { transaction },
        );
        const row = { businessId: business, id: idAt(at, 900 + n), firstAt: new Date(at) };
        await standAt(place, row, { reached: 2, state: null, reason: null }, transaction);
        await markMoments(place.db, business, [at], transaction, 0);
      });
    };
    const adding = (async () => {
      for (let times = 0; times < 8; times++) await rollUp();
    })();
    await Promise.all([adding, ...Array.from({ length: 12 }, (_, n) => write(n))]);
    await rollUp();
    const rows = (await counted()).filter((row) => row.day === '2027-02-04' && row.zone === 'Europe/London');
    expect(rows).toEqual([{ zone: 'Europe/London', day: '2027-02-04', n: 12 }]);
  });

  it('are one statement each, which the database takes', async () => {
    for (const { table } of sums) expect(await rowsOf(place.db, `SELECT COUNT(*) AS n FROM ${table}`)).toHaveLength(1);
  });
});

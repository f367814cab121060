import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeReadReport } from '../../src/server/platforms/report';
import { setClock } from '../../src/server/clock';
import { idAt, makePlace, noon, rowsOf, setUpLarkmoor } from './place';
import { startOutside } from './outside';

let outside: Awaited<ReturnType<typeof startOutside>>;
let place: Awaited<ReturnType<typeof makePlace>>;
let larkmoor: Awaited<ReturnType<typeof setUpLarkmoor>>;
let accountId: string;

beforeAll(async () => {
  outside = await startOutside();
  place = await makePlace({ AVRIX_PRIVATE_HOSTS: outside.hosts });
  larkmoor = await setUpLarkmoor(place.services, outside.places);
  accountId = (await place.services.accounts.byKey(larkmoor.id, 'quillsearch'))!.id;
});
afterAll(async () => {
  await place.end();
  outside.end();
});

const at = (ms: number) => {
  setClock(ms);
  outside.moveTo(ms);
};
const read = () =>
  makeReadReport(place.services.context, place.services.accounts, place.services.releases)(larkmoor.id, accountId);
const click = (ad = 'uk-27q1-fleet-winterproof.hill-video') => outside.quillsearch.app.request(`/click/${ad}`);
const stored = () =>
  rowsOf<{ day: string; campaign: string; clicks: number }>(
    place.db,
    'SELECT CAST(day AS CHAR) AS day, campaign, clicks FROM click_reports ORDER BY day, campaign',
  );

describe('a platform’s own report', () => {
  it('is read by days of its account’s zone, and again when it restates them', async () => {
    at(Date.UTC(2027, 0, 31, 2));
    await click();
    await click();
    at(noon);
    await click('ie-27q1-fleet-bakery.oven-run');
    await read();
    expect(await stored()).toEqual([
      { day: '2027-01-30', campaign: 'uk-27q1-fleet-winterproof', clicks: 2 },
      { day: '2027-02-01', campaign: 'ie-27q1-fleet-bakery', clicks: 1 },
    ]);
    await click('ie-27q1-fleet-bakery.oven-run');
    await read();
    expect((await stored())[1]!.clicks).toBe(2);
  });

  it('is asked for again after a minute', async () => {
    at(noon);
    expect((await read())!.getTime()).toBeGreaterThanOrEqual(noon + 60_000);
  });

  it('confirms a click day only once it holds as many rows as were taken', async () => {
    const { tables } = place.services.context;
    const businessId = larkmoor.id;
    at(noon);
    await outside.quillsearch.app.request('/account/outcomes', {
      method: 'POST',
      body: new URLSearchParams({ code: 'FLT-QUAL' }),
    });
    const key = new URL((await click()).headers.get('location')!).searchParams.get('qsid')!;
    const tell = (order: string) =>
      outside.quillsearch.app.request('/api/outcomes', {
        method: 'POST',
        headers: { authorization: `Bearer ${outside.around.key('quillsearch token')}` },
        body: JSON.stringify({
          rows: [
            {
              visit_key: key,
              outcome: 'FLT-QUAL',
              happened_at: new Date(noon + 60_000).toISOString(),
              worth: 1,
              currency: 'GBP',
              order,
            },
          ],
        }),
      });
    for (const n of [1, 2]) {
      const id = idAt(noon, n);
      await tables.outcomes.create({
        businessId,
        id,
        code: 'FLT-QUAL',
        version: 1,
        dedupeKey: `enquiry ${n}`,
        subjectKind: 'enquiry',
        subjectId: id,
        happenedAt: new Date(noon),
        evidence: { kind: 'stage', stage: 'Fleet assessed', skipped: false },
        amountMinor: 4,
        worthMinor: 1,
        currency: 'GBP',
        winRateWon: 1,
        winRateOf: 4,
        countedAt: new Date(noon),
        releaseNumber: 1,
      });
      await tables.reportBacks.create({
        businessId,
        id,
        outcomeId: id,
        subjectKind: 'enquiry',
        subjectId: id,
        accountId,
        account: 'quillsearch',
        toldAs: 'FLT-QUAL',
        platform: 'quillsearch',
        state: 'told',
        keyKind: 'click_id',
        keyValue: key,
        answeredAt: new Date(noon),
        bookedOn: '2027-02-01',
        madeAt: new Date(noon),
        reason: null,
      } as never);
    }
    const states = async () =>
      (await rowsOf<{ state: string }>(place.db, 'SELECT state FROM report_backs ORDER BY id')).map((row) => row.state);
    at(noon + 4 * 3_600_000);
    await tell('a');
    await read();
    expect(await states()).toEqual(['told', 'told']);
    await tell('b');
    await read();
    expect(await states()).toEqual(['confirmed', 'confirmed']);
  });

  it('that does not come leaves what was read before', async () => {
    const before = await stored();
    const account = (await place.services.accounts.byKey(larkmoor.id, 'quillsearch'))!;
    await place.db.query('UPDATE accounts SET endpoint = ? WHERE id = ?', {
      replacements: ['http://quillsearch.localhost:1', account.id],
    });
    await expect(read()).rejects.toMatchObject({ status: 'not sent' });
    expect(await stored()).toEqual(before);
  });
});

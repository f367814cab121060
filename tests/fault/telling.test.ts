import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { larkmoorSetup } from '../../demo/setup/business';
import { startOutside } from '../service/outside';
import { makeFaultPlace } from './place';

const rows = 2000;
let outside: Awaited<ReturnType<typeof startOutside>>;
let place: Awaited<ReturnType<typeof makeFaultPlace>>;

beforeAll(async () => {
  outside = await startOutside();
  place = await makeFaultPlace({ AVRIX_PRIVATE_HOSTS: outside.hosts });
  await place.door('business', larkmoorSetup(outside.places as never));
  await outside.quillsearch.app.request('/account/outcomes', {
    method: 'POST',
    body: new URLSearchParams({ code: 'FLT-QUAL' }),
  });
});
afterAll(async () => {
  await place.end();
  outside.end();
});

/** Clicks at Quillsearch, each with an outcome counted and its report-back due. */
async function makeReportBacks(): Promise<void> {
  const [account] = await place.query<{ id: string; b: string }>(
    "SELECT id, business_id AS b FROM accounts WHERE kind = 'quillsearch'",
  );
  const { id: accountId, b } = account!;
  const made = await Promise.all(
    Array.from({ length: rows }, async () => {
      const { headers } = await outside.quillsearch.app.request('/click/uk-27q1-fleet-winterproof.hill-video');
      return { id: v7(), key: new URL(headers.get('location')!).searchParams.get('qsid')! };
    }),
  );
  const values = (row: (made: { id: string; key: string }) => string) => made.map(row).join(',');
  await place.run(
    `INSERT INTO outcomes VALUES ${values(({ id }) => `('${b}','${id}','FLT-QUAL',1,'enquiry ${id}','${id}',UTC_TIMESTAMP(3) + INTERVAL 1 SECOND,'Fleet assessed',0,400,100,'GBP','1 of 4',UTC_TIMESTAMP(3),1)`)}`,
  );
  await place.run(
    `INSERT INTO report_backs VALUES ${values(({ id, key }) => `('${b}','${id}','${id}','${id}','${accountId}','quillsearch','waiting',NULL,'${key}',UTC_TIMESTAMP(3),NULL,NULL,NULL,UTC_TIMESTAMP(3))`)}`,
  );
  await place.run(
    `INSERT INTO work (business_id, kind, subject, due_at, marks, attempts) VALUES ${values(({ id }) => `('${b}','report_back','${id}',UTC_TIMESTAMP(3),1,0)`)}`,
  );
}

const count = async (what: string) =>
  Number((await place.query<{ n: number }>(`SELECT COUNT(*) AS n FROM ${what}`))[0]!.n);
/** What Quillsearch answered to all rows of all calls. */
async function answers(): Promise<Record<string, number>> {
  const total: Record<string, number> = {};
  for (const call of outside.around
    .storeOf('quillsearch')
    .rows<{ id: string; answers: Record<string, number> }>('calls')
    .all())
    for (const [answer, n] of Object.entries(call.answers)) total[answer] = (total[answer] ?? 0) + n;
  return total;
}
/** Lets time pass for work: leases run out, waits are over. */
const letTimePass = () =>
  place.run("UPDATE work SET due_at = UTC_TIMESTAMP(3), lease_until = NULL, owner = NULL WHERE kind = 'report_back'");

it('two workers, one killed within a batch, against a platform that is slow, busy, broken and loses answers: each row is taken once', async () => {
  await makeReportBacks();

  await outside.fault('slow', 2);
  const kill = await place.startWorker();
  await expect.poll(() => count('attempts'), { timeout: 20_000 }).toBeGreaterThan(0);
  await kill();
  await letTimePass();

  for (const kind of ['lost', 'broken', 'busy']) {
    await outside.fault(kind);
    const before = await count('attempts');
    const ends = [await place.startWorker(), await place.startWorker()];
    await expect.poll(() => count('attempts'), { timeout: 30_000 }).toBeGreaterThan(before);
    for (const end of ends) await end();
    await letTimePass();
  }

  await outside.fault('none');
  await Promise.all([place.startWorker(), place.startWorker()]);
  await expect
    .poll(() => count("report_backs WHERE state IN ('told', 'confirmed')"), { timeout: 90_000, interval: 500 })
    .toBe(rows);
  const { taken, ...rest } = await answers();
  expect(taken).toBe(rows);
  expect(Object.keys(rest)).toEqual(['told before']);
});

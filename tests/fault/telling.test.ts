import { afterAll, beforeAll, expect, it } from 'vitest';
import { larkmoorSetup } from '../../demo/setup/business';
import { startOutside } from '../service/outside';
import { oweReportBacks } from './owed';
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

/** Report-backs that are due at the one account. */
async function makeReportBacks(): Promise<void> {
  const [account] = await place.query<{ id: string; b: string }>(
    "SELECT id, business_id AS b FROM accounts WHERE kind = 'quillsearch'",
  );
  const { id, b } = account!;
  await oweReportBacks(
    { place, outside },
    b,
    Array.from({ length: rows }, () => id),
    '1 SECOND',
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

import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { v7 } from 'uuid';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { larkmoorSetup } from '../../demo/setup/business';
import { startOutside } from '../service/outside';
import { oweReportBacks } from './owed';
import { makeFaultPlace } from './place';

/* Many accounts of slow services, several processes, leases that run out: what is told is told once. */

const accounts = 8;
const rowsEach = 20;
let outside: Awaited<ReturnType<typeof startOutside>>;
let place: Awaited<ReturnType<typeof makeFaultPlace>>;
let business = '';
/** A website that never answers. */
const silent = createServer(() => undefined);

beforeAll(async () => {
  await new Promise<void>((resolve) => silent.listen(0, '127.0.0.1', resolve));
  outside = await startOutside();
  place = await makeFaultPlace({
    AVRIX_PRIVATE_HOSTS: `${outside.hosts},pages.localhost:${(silent.address() as AddressInfo).port}`,
    AVRIX_LEASE_SECONDS: '2',
  });
  await place.door('business', larkmoorSetup(outside.places as never));
  for (const [path, body] of [
    ['outcomes', { code: 'FLT-QUAL' }],
    ['repeats', { forgets: 'yes' }],
  ] as const)
    await outside.quillsearch.app.request(`/account/${path}`, { method: 'POST', body: new URLSearchParams(body) });
  const [first] = await place.query<{ b: string }>("SELECT business_id AS b FROM accounts WHERE kind = 'quillsearch'");
  business = first!.b;
  for (let n = 1; n < accounts; n++)
    await place.run(
      `INSERT INTO accounts
           (business_id, id, \`key\`, kind, name, endpoint, settings, secrets, created_at)
         SELECT business_id, '${v7()}', CONCAT(\`key\`, '-${n}'), kind, CONCAT(name, ' ${n}'), endpoint,
         settings, secrets, created_at FROM accounts WHERE \`key\` = 'quillsearch' AND business_id = '${business}'`,
    );
});
afterAll(async () => {
  await place.end();
  outside.end();
  silent.closeAllConnections();
  silent.close();
});

/** Quillsearch takes 40 calls a minute: another minute begins there. */
let minutes = 0;
const anotherMinute = () => outside.moveTo(Date.now() + ++minutes * 61_000);

/** Where it asked to wait, nobody does: what is due later is due, and another minute begins there. */
async function noWaiting(): Promise<void> {
  anotherMinute();
  await place.run(
    "UPDATE work SET due_at = UTC_TIMESTAMP(3) WHERE kind = 'report_back' AND due_at > UTC_TIMESTAMP(3) AND owner IS NULL",
  );
}

/** Report-backs that are due, the same number for each account. */
async function makeReportBacks(each: number): Promise<string[]> {
  const known = await place.query<{ id: string }>("SELECT id FROM accounts WHERE kind = 'quillsearch'");
  const accounts = known.flatMap(({ id }) => Array.from({ length: each }, () => id));
  return oweReportBacks({ place, outside }, business, accounts);
}

const count = async (what: string) =>
  Number((await place.query<{ n: number }>(`SELECT COUNT(*) AS n FROM ${what}`))[0]!.n);
const accountsBeingTold = async () => {
  const [told] = await place.query<{ n: number }>(
    `SELECT COUNT(DISTINCT report_backs.account_id) AS n FROM attempts
     JOIN report_backs ON report_backs.business_id = attempts.business_id AND report_backs.id = attempts.report_back_id
     WHERE attempts.status = 'no answer yet'`,
  );
  return Number(told!.n);
};
const takenOrders = () =>
  outside.around
    .storeOf('quillsearch')
    .rows<{ id: string }>('outcomes')
    .all()
    .map(({ id }) => id.split(',')[0]!);
const twice = (orders: string[]) => orders.filter((order, at) => orders.indexOf(order) !== at);

it('eight accounts that answer after longer than a lease, two workers: each row is told once, all lanes at a time', async () => {
  await outside.fault('slow', 5);
  const ids = await makeReportBacks(rowsEach);
  const ends = [await place.startWorker(), await place.startWorker()];
  let atATime = 0;
  await expect
    .poll(
      async () => {
        await noWaiting();
        atATime = Math.max(atATime, await accountsBeingTold());
        return count("report_backs WHERE state = 'waiting'");
      },
      { timeout: 90_000, interval: 1000 },
    )
    .toBe(0);
  // Two workers with one lane each would tell two.
  expect(atATime, 'accounts that were told at a time').toBeGreaterThan(2);
  expect(twice(takenOrders())).toEqual([]);
  expect(takenOrders()).toHaveLength(ids.length);
  // A worker that was too late to renew its lease leaves what it had begun unsure: it is taken, and not told anew.
  expect(await count("report_backs WHERE state NOT IN ('told', 'confirmed', 'unsure')")).toBe(0);
  for (const end of ends) await end();
});

it('a worker that stands still within a batch tells nothing that another one told meanwhile', async () => {
  await outside.fault('slow', 1);
  anotherMinute();
  const before = takenOrders().length;
  const attempts = await count('attempts');
  const breathless = await place.startBreathless();
  const ids = await makeReportBacks(rowsEach);
  await expect.poll(() => count('attempts'), { timeout: 20_000, interval: 20 }).toBeGreaterThan(attempts);
  breathless.hold();
  const end = await place.startWorker();
  await expect
    .poll(() => noWaiting().then(() => count(`report_backs WHERE state = 'waiting'`)), {
      timeout: 60_000,
      interval: 500,
    })
    .toBe(0);
  breathless.goOn();
  // What it had begun is answered; nothing of it is told anew.
  await expect.poll(() => count("attempts WHERE status = 'no answer yet'"), { timeout: 30_000 }).toBe(0);
  expect(twice(takenOrders())).toEqual([]);
  expect(takenOrders().length - before).toBeLessThanOrEqual(ids.length);
  await end();
});

it('pages that never answer hold up no visitor', async () => {
  await outside.fault('none');
  const { port } = silent.address() as AddressInfo;
  const checks = Array.from({ length: 40 }, (_, n) => ({ id: v7(), url: `http://pages.localhost:${port}/${n}` }));
  const now = 'UTC_TIMESTAMP(3)';
  await place.run(
    `INSERT INTO page_checks (business_id, id, url, url_hash, state, result, asked_at, checked_at)
     VALUES ${checks.map(({ id, url }) => `('${business}','${id}','${url}',SHA2('${url}', 256),'waiting',NULL,${now},NULL)`).join(',')}`,
  );
  await place.run(
    `INSERT INTO work (business_id, kind, subject, lane, due_at, marks, attempts)
     VALUES ${checks.map(({ id }) => `('${business}','page_check','${id}','pages.localhost:${port}',${now},1,0)`).join(',')}`,
  );
  const end = await place.startWorker();
  await expect
    .poll(() => count("work WHERE kind = 'page_check' AND owner IS NOT NULL"), { timeout: 10_000 })
    .toBeGreaterThan(0);
  const visitor = v7();
  await place.run(
    `INSERT INTO work (business_id, kind, subject, due_at, marks, attempts) VALUES ('${business}','visitor','${visitor}',${now},1,0)`,
  );
  await expect.poll(() => count("work WHERE kind = 'visitor'"), { timeout: 5000, interval: 100 }).toBe(0);
  expect(await count("page_checks WHERE state = 'waiting'")).toBeGreaterThan(0);
  await end();
});

it('one row for which a platform refuses the whole batch is refused; the others are told', async () => {
  anotherMinute();
  const ids = await makeReportBacks(3);
  // Worth more than the platform believes: it takes no batch with such a row.
  await place.run(`UPDATE outcomes SET worth_minor = 99000000000 WHERE id = '${ids[1]}'`);
  const end = await place.startWorker();
  const list = ids.map((id) => `'${id}'`).join(',');
  await expect
    .poll(
      () => noWaiting().then(() => count(`report_backs WHERE id IN (${list}) AND state IN ('told', 'confirmed')`)),
      { timeout: 30_000, interval: 500 },
    )
    .toBe(ids.length - 1);
  const [bad] = await place.query<{ state: string }>(`SELECT state FROM report_backs WHERE id = '${ids[1]}'`);
  expect(bad!.state).toBe('refused');
  expect(twice(takenOrders())).toEqual([]);
  await end();
});

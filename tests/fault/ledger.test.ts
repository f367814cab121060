import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ChildProcess } from 'node:child_process';
import fc from 'fast-check';
import { afterAll, expect, it } from 'vitest';
// First: it makes the database that the rest makes its place in.
import { restartDatabase } from './own-database';
import { freePorts } from '../../scripts/lib/ports.mjs';
import {
  expectLedgers,
  fail,
  hardBreakdowns,
  play,
  rounds,
  roundsTake,
  stepsWithBreakdowns,
  type Breakdown,
} from '../service/ledger-walks';
import { now } from '../../src/server/clock';
import { rowsOf } from '../service/place';
import { move, outside, place, rest, time } from '../service/walks';
import { askEdge, killed, startProgram } from './place';

/* The ledger test once more, with a second process beside the test's own that breaks down while it works. */

const folder = mkdtempSync(join(tmpdir(), 'avrix-fault-'));
const testSwitch = randomBytes(16).toString('hex');
let port = 0;
let application: ChildProcess | null = null;
let breakdowns = 0;

afterAll(async () => {
  if (isAlive()) await killed(application!);
  rmSync(folder, { recursive: true, force: true });
});

const isAlive = () => application !== null && application.exitCode === null && application.signalCode === null;

/** Moves the application's clock to the test's, and says whether it works. */
async function set(paused: boolean): Promise<void> {
  const headers = { 'avrix-test-switch': testSwitch };
  const answer = await askEdge(port, '/_test/clock', headers, JSON.stringify({ at: time, paused }));
  expect(answer.status).toBe(204);
}
async function begin(): Promise<void> {
  if (isAlive()) return;
  port = await freePorts(5350 + 100 * Number(process.env.VITEST_POOL_ID ?? 0), 1);
  application = await startProgram('main', {
    AVRIX_PORT: String(port),
    AVRIX_DATA: folder,
    AVRIX_DATABASE_URL: place.url,
    AVRIX_SECRET_KEY: place.services.config.secretKey.toString('hex'),
    AVRIX_TEST_SWITCH: testSwitch,
    AVRIX_PRIVATE_HOSTS: outside.hosts,
  });
}

const isWorkedOn = async () => {
  const [row] = await rowsOf<{ n: number }>(place.db, 'SELECT COUNT(*) AS n FROM work WHERE owner IS NOT NULL');
  return Number(row!.n) > 0;
};
/** Attempts that were begun, and have no answer. */
const openAttempts = async () => {
  const [row] = await rowsOf<{ n: number }>(
    place.db,
    "SELECT COUNT(*) AS n FROM attempts WHERE status = 'no answer yet'",
  );
  return Number(row!.n);
};
/** Whether something is left to do of what arrived. */
const isAnythingDue = async () => {
  const [row] = await rowsOf<{ n: number }>(
    place.db,
    `SELECT COUNT(*) AS n FROM work WHERE kind NOT IN ('crm_poll', 'platform_report')
     AND (due_at <= ? OR owner IS NOT NULL)`,
    [now()],
  );
  return Number(row!.n) > 0;
};
const leasesRunOut = () =>
  place.db.query('UPDATE work SET lease_until = UTC_TIMESTAMP(3) - INTERVAL 1 SECOND WHERE owner IS NOT NULL');

/** Has the application work on what just arrived until it breaks down, and goes on here with what it left. */
async function breakDown({ how, when }: Breakdown): Promise<void> {
  await begin();
  // Long enough for something to happen while it has a call.
  for (const service of ['quillsearch', 'wrenwick'] as const) await fail(service, 'slow');
  move(time + 60_000);
  await set(false);
  const before = await openAttempts();
  // What was given back before it was ordered is told to nobody.
  const isThere = async () =>
    when === 'it works' ? isWorkedOn() : (await openAttempts()) > before || !(await isAnythingDue());
  await expect.poll(isThere, { timeout: 20_000, interval: 10 }).toBe(true);
  breakdowns += 1;
  if (how === 'killed') await killed(application!);
  else if (how === 'stands still') application!.kill('SIGSTOP');
  else await restartDatabase();
  // Whatever the platform was told by then it has.
  await expect.poll(outside.underWay, { timeout: 20_000, interval: 10 }).toBe(0);
  for (const service of ['quillsearch', 'wrenwick'] as const) await fail(service, 'none');
  await leasesRunOut();
  await rest();
  if (how === 'stands still') application!.kill('SIGCONT');
  if (isAlive()) await set(true);
}

it(
  'each platform holds what it should, once and to the penny, though processes are killed, stand still and lose the database',
  async () => {
    await fc.assert(
      fc.asyncProperty(stepsWithBreakdowns, async (all) => expectLedgers(await play(all, breakDown))),
      { ...rounds(4, 2904), examples: hardBreakdowns },
    );
    expect(breakdowns).toBeGreaterThan(3);
    // Some broke down while a platform had what they told.
    expect(await openAttempts()).toBeGreaterThan(0);
  },
  roundsTake,
);

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll } from 'vitest';
import { startMariaDb } from '../../scripts/lib/mariadb.mjs';
import { freePorts } from '../../scripts/lib/ports.mjs';
import { makeEnds } from '../../scripts/lib/program.mjs';

/* A MariaDB of this test file's own, which can be restarted. Import it before whatever makes its place in a database. */

let folder = '';
let port = 0;
let ends = makeEnds();

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'avrix-fault-'));
  port = await freePorts(5300 + 100 * Number(process.env.VITEST_POOL_ID ?? 0), 1);
  process.env.TEST_DATABASE_URL = await startMariaDb(folder, ends, port);
});
afterAll(async () => {
  await ends.all();
  rmSync(folder, { recursive: true, force: true });
});

export async function restartDatabase(): Promise<void> {
  await ends.all();
  ends = makeEnds();
  await startMariaDb(folder, ends, port);
}

import { cpSync, existsSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { endLeftOver } from './mariadb.mjs';
import { makeEnds } from './program.mjs';
import { startWorld } from './world.mjs';

/*
 * Worlds for browser tests: application, database and stand-ins with the small demo. One is loaded for each worker, and
 * put back as it was loaded for each file of tests, so that no file meets what another one did.
 */

/**
 * @typedef {object} TestWorld
 * @property {string} folder
 * @property {number} port
 * @property {number} standinsPort its addresses stand in what is loaded
 * @property {string} testSwitch
 * @property {string} ownerPassword
 */

const asLoaded = ({ folder }) => join(folder, 'as-loaded');
const inUse = ({ folder }) => join(folder, 'in-use');

const start = (world, ends, demo = 'small') =>
  startWorld(
    {
      dataDir: inUse(world),
      port: world.port,
      standinsPort: world.standinsPort,
      demo,
      outside: true,
      lastDay: '2027-02-15',
      testSwitch: world.testSwitch,
      quiet: true,
      env: { AVRIX_OWNER_PASSWORD: world.ownerPassword, AVRIX_LOG: 'warn' },
    },
    ends,
  );

/**
 * Loads the demo into a world, which is at rest when this resolves.
 * @param {TestWorld} world
 */
export async function loadTestWorld(world, outerEnds) {
  const ends = makeEnds();
  const end = outerEnds.add(() => ends.all());
  rmSync(world.folder, { recursive: true, force: true });
  try {
    await start(world, ends);
  } finally {
    await end();
  }
  renameSync(inUse(world), asLoaded(world));
}

/**
 * Starts a world as it was loaded.
 * @param {TestWorld} world
 * @param ends takes what was started
 * @returns as `startWorld`
 */
export async function startTestWorld(world, ends) {
  if (!existsSync(asLoaded(world))) throw new Error('Browser tests need a loaded world; run them by `npm test`.');
  // A worker that was killed left its database behind.
  await endLeftOver(inUse(world));
  rmSync(inUse(world), { recursive: true, force: true });
  cpSync(asLoaded(world), inUse(world), { recursive: true, preserveTimestamps: true });
  return start(world, ends);
}

/**
 * Starts an installation in which nobody has made anything, with the outside world beside it.
 * @param {TestWorld} world
 * @param ends takes what was started
 * @returns as `startWorld`
 */
export async function startEmptyWorld(world, ends) {
  await endLeftOver(inUse(world));
  rmSync(inUse(world), { recursive: true, force: true });
  return start(world, ends, 'none');
}

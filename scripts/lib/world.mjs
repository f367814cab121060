import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { startMariaDb } from './mariadb.mjs';
import { multiply } from './multiply.mjs';
import { makeDataDir, secret } from './paths.mjs';
import { makeEnds, startProgram } from './program.mjs';
import { say, Stop } from './say.mjs';

export const standins = [
  ...['larkmoor', 'quillsearch', 'oakledger', 'larkmoor-fleet', 'bellhour', 'wrenwick'],
  ...['plain-ads', 'plain-crm', 'meterhall', 'tessaloop', 'brindlepost'],
];
/** Hosts of the stand-ins, whose ports are neighbours: each has a page, and Brindlepost takes emails at the last one. */
export const standinHosts = (port) => [...standins, 'brindlepost'].map((name, i) => `${name}.localhost:${port + i}`);
export const standinPorts = standins.length + 1;

/** Where everything answers. */
function placesOf(port, standinsPort) {
  const at = (name, p) => `http://${name}.localhost:${p}`;
  return {
    avrix: process.env.AVRIX_ORIGIN || at('avrix', port),
    edge: process.env.AVRIX_EDGE_ORIGIN || at('avrix-edge', port),
    ...Object.fromEntries(standins.map((name, i) => [name, at(name, standinsPort + i)])),
  };
}

/**
 * Starts MariaDB (or uses the one named), the application and the stand-ins, and loads the demo where the database is
 * empty.
 *
 * @param options.demo `small`, `demo`, `clean`, `large` or `none`; null for the one that is loaded, else `usualDemo`
 * @param options.outside whether the stand-ins are there beside an empty installation; with a demo they always are
 * @param options.lastDay last day of the demo, `2027-02-15`
 * @param options.testSwitch kept on after loading, with the clock at the end of the demo; null in use
 * @param ends takes everything that was started; the caller ends it, also when this throws
 */
export async function startWorld(options, ends = makeEnds()) {
  const { dataDir, port, standinsPort, outside = false, testSwitch = null, quiet = false, env = {} } = options;
  makeDataDir(dataDir);
  const own = !process.env.AVRIX_DATABASE_URL;
  const loading = join(dataDir, 'demo-is-loading');
  if (existsSync(loading)) forgetHalfLoaded(dataDir, own, loading);
  const demo = demoOf(dataDir, options.demo);
  const databaseUrl = own ? await startMariaDb(dataDir, ends) : process.env.AVRIX_DATABASE_URL;
  const hasStandins = demo !== 'none' || outside;
  if (hasStandins) keepPort(dataDir, standinsPort);
  const lastDay = keptLastDay(dataDir, options.lastDay);
  // `npm run worker` finds the database here.
  writeFileSync(join(dataDir, 'database-url'), databaseUrl, { mode: 0o600 });
  const standinsSecret = secret(dataDir, 'standins-secret');
  const places = placesOf(port, standinsPort);
  // What the demo's accounts and page checks ask lies inside this machine: the stand-ins, and our own edge.
  const edge = ['avrix-edge', 't.larkmoor'].map((name) => `${name}.localhost:${port}`);
  const privateHosts = [...standinHosts(standinsPort), ...edge];

  const startApplication = (switchText) =>
    startProgram(
      'app/main.js',
      {
        AVRIX_PORT: String(port),
        AVRIX_STANDINS_PORT: String(standinsPort),
        AVRIX_DATA: dataDir,
        AVRIX_DATABASE_URL: databaseUrl,
        AVRIX_SECRET_KEY: process.env.AVRIX_SECRET_KEY || secret(dataDir, 'secret-key'),
        AVRIX_PRIVATE_HOSTS: process.env.AVRIX_PRIVATE_HOSTS || (hasStandins ? privateHosts.join(',') : ''),
        AVRIX_TEST_SWITCH: switchText ?? '',
        // A replay sends a year of visits from one address.
        ...(switchText ? { AVRIX_COLLECT_PER_MINUTE: '0', AVRIX_ROLL_UP_SECONDS: '0' } : {}),
        ...env,
      },
      ends,
      { quiet },
    );
  const startStandins = (switchText) =>
    startProgram(
      'standins/main.js',
      {
        STANDINS_PORT: String(standinsPort),
        STANDINS_DATA: join(dataDir, 'standins'),
        STANDINS_SECRET: standinsSecret,
        // In the demo somebody has pasted the snippet and connected everything already.
        ...(demo === 'none'
          ? {}
          : {
              STANDINS_SCRIPT: `http://t.larkmoor.localhost:${port}/b/larkmoor.js`,
              STANDINS_FLEET_SCRIPT: `http://t.larkmoor-fleet.localhost:${port}/b/larkmoor.js`,
              STANDINS_BOOKED: `${places.edge}/carry/larkmoor/returned`,
              STANDINS_HOOK: `${places.edge}/hook/larkmoor/oakledger`,
              STANDINS_CALLS: `${places.edge}/calls/larkmoor`,
              STANDINS_REPLIES: `${places.edge}/replies/larkmoor`,
            }),
        STANDINS_LAST_DAY: lastDay,
        STANDINS_FAULTS: demo === 'clean' ? 'no' : 'yes',
        ...(switchText ? { STANDINS_TEST_SWITCH: switchText } : {}),
      },
      ends,
      { quiet },
    );

  /** The stand-ins first, so that the application finds them. */
  const startBoth = async (switchText) => {
    const services = hasStandins ? [await startStandins(switchText)] : [];
    const application = await startApplication(switchText);
    const both = [application, ...services];
    return {
      isEmpty: application.said.businesses === 0,
      owner: application.said.owner,
      exited: Promise.race(both.map((program) => program.exited)),
      application,
      end: async () => {
        for (const program of both) await program.end();
      },
    };
  };

  let running = await startBoth(testSwitch);
  // Made at the very first start; nobody can ask for the password later.
  const { owner } = running;
  writeFileSync(join(dataDir, 'demo'), demo);
  if (demo !== 'none' && running.isEmpty) {
    const switchText = testSwitch ?? randomBytes(16).toString('hex');
    await running.end();
    running = await startBoth(switchText);
    writeFileSync(loading, '');
    const load = await startProgram(
      'demo/main.js',
      {
        DEMO_SIZE: demo === 'large' ? 'small' : demo,
        DEMO_LAST_DAY: lastDay,
        DEMO_AVRIX_PORT: String(port),
        DEMO_STANDINS_PORT: String(standinsPort),
        DEMO_STANDINS_SECRET: standinsSecret,
        DEMO_SWITCH: switchText,
      },
      ends,
    );
    if ((await load.exited) !== 0) throw new Stop('The demo could not be loaded; the lines above say why.');
    if (demo === 'large') await multiply(databaseUrl, largeTimes);
    rmSync(loading);
    if (!testSwitch) {
      await running.end();
      running = await startBoth(null);
    }
  }
  let { application } = running;
  /** Cuts the application off, whatever it does at that moment, and starts it again; the outside world goes on. */
  const restartApplication = async () => {
    await application.cutOff();
    application = await startApplication(testSwitch);
  };
  return { places, demo, hasStandins, databaseUrl, owner, exited: running.exited, restartApplication };
}

const usualDemo = 'demo';
/** How many times the small demo's people: about two million hits of half a million visitors. */
const largeTimes = 450;

/** The demo that a data directory holds; asking for another one needs another directory. */
function demoOf(dataDir, wanted) {
  const file = join(dataDir, 'demo');
  const before = existsSync(file) ? readFileSync(file, 'utf8') : null;
  if (before && wanted && before !== wanted)
    throw new Stop(`${dataDir} holds AVRIX_DEMO=${before}. Start with that, or use another AVRIX_DATA for ${wanted}.`);
  return before ?? wanted ?? usualDemo;
}

/** The addresses of the stand-ins stand in the loaded demo, so their ports stay as they were at its loading. */
function keepPort(dataDir, standinsPort) {
  const file = join(dataDir, 'standins-port');
  const before = existsSync(file) ? Number(readFileSync(file, 'utf8')) : standinsPort;
  if (before !== standinsPort)
    throw new Stop(
      `The demo in ${dataDir} was loaded with AVRIX_STANDINS_PORT=${before}. Start with that, or use another AVRIX_DATA.`,
    );
  writeFileSync(file, String(standinsPort));
}

/** Names and days of the demo lie around the last day that was loaded, also when it is started again later. */
function keptLastDay(dataDir, lastDay) {
  const file = join(dataDir, 'demo-last-day');
  if (!existsSync(file)) writeFileSync(file, lastDay);
  return readFileSync(file, 'utf8');
}

/**
 * A load that was cut off leaves half a business, also in the spool; it is loaded again from the beginning.
 * @throws Stop where the database is not our own, and so not ours to empty
 */
export function forgetHalfLoaded(dataDir, own, loading) {
  if (!own)
    throw new Stop(
      'The demo was loaded only in part into the database of AVRIX_DATABASE_URL. ' +
        `Empty that database, remove ${join(dataDir, 'spool')} and ${loading}, and start again.`,
    );
  say('The demo was loaded only in part; it is loaded again.');
  for (const name of ['mariadb', 'spool', 'standins', 'demo', 'demo-last-day', 'demo-is-loading'])
    rmSync(join(dataDir, name), { recursive: true, force: true });
}

import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { rmSync } from 'node:fs';
import { request } from 'node:http';
import { setTimeout as wait } from 'node:timers/promises';
import { build as bundle } from 'esbuild';
import { needBuild } from './lib/build.mjs';
import { startMariaDb } from './lib/mariadb.mjs';
import { needModules } from './lib/modules.mjs';
import { browser, database, needNode, needPackages } from './lib/packages.mjs';
import { inRoot, makeDataDir } from './lib/paths.mjs';
import { freePorts } from './lib/ports.mjs';
import { endOnSignal, makeEnds } from './lib/program.mjs';
import { main, say, Stop } from './lib/say.mjs';
import { startWorld } from './lib/world.mjs';

/** What runs against a bare counterpart, in this order. `npm run bench -- writer` runs one. */
const against = [
  'snippet',
  'addresses',
  'events',
  'page',
  'writer',
  'report-backs',
  'filed',
  'write-backs',
  'leads',
  'results',
  'collect',
  'short-link',
];
const lastDay = '2027-02-15';
const firstDay = '2026-01-16';
const mail = 'owner@larkmoor.example';

/** Runs one bench in a process of its own and returns what it measured. */
function run(name, env, ends) {
  say(`\n== ${name}`);
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ['--enable-source-maps', inRoot('dist', 'bench', `${name}.js`)], {
      cwd: inRoot(),
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env: { ...process.env, NODE_ENV: 'production', ...env },
    });
    const end = ends.add(() => child.kill('SIGTERM'));
    let results = null;
    child.once('message', (message) => (results = message));
    child.once('exit', () => {
      void end();
      if (results) resolve(results);
      else reject(new Stop(`${name} ended without a result.`));
    });
  });
}

const shown = ({ name, ratio, target, better, spread }) => {
  const measured = ratio === null ? 'not measured' : ratio.toFixed(2);
  const good = ratio !== null && (better === 'higher' ? ratio >= target : ratio <= target);
  const wanted = `${better === 'higher' ? '≥' : '≤'} ${target}`;
  return `${name.padEnd(24)} ${measured.padStart(12)}   ${wanted.padEnd(8)} spread ${(spread * 100).toFixed(0)} %  ${good ? '' : 'not met'}`;
};

await main(async () => {
  needNode();
  needPackages({ ...database, ...browser });
  needModules();
  await needBuild();
  const asked = process.argv.slice(2).filter((argument) => argument !== '--json');
  await bundle({
    entryPoints: [...against, 'line', 'pages', 'bare-collector', 'bare-redirect', 'bare-crm'].map((name) =>
      inRoot('bench', `${name}.ts`),
    ),
    outdir: inRoot('dist', 'bench'),
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    sourcemap: true,
    logLevel: 'warning',
  });
  const wants = (name) => asked.length === 0 || asked.includes(name);
  const results = [];
  const ends = makeEnds();
  endOnSignal(ends);
  try {
    const dataDir = inRoot('.data', 'bench');
    rmSync(dataDir, { recursive: true, force: true });
    makeDataDir(dataDir);
    const BENCH_DATABASE_URL = await startMariaDb(dataDir, ends);
    for (const name of against.filter(wants)) results.push(...(await run(name, { BENCH_DATABASE_URL }, ends)));
  } finally {
    await ends.all();
  }
  if (wants('line')) await openTheLine();
  // Two million hits take minutes to load and gigabytes to keep: only where somebody asks.
  if (asked.includes('large')) await openPages('large', 600);
  say(`\n${results.map(shown).join('\n')}`);
  if (process.argv.includes('--json')) console.log(JSON.stringify(results));
  return 0;
});

/** The demo is loaded once and kept for the next time. */
async function openTheLine() {
  await withDemo('demo', async (env, ends) => {
    await run('line', env, ends);
    await run('pages', { ...env, BENCH_AIM: '300' }, ends);
  });
}

/** How long every page takes at a size. */
function openPages(demo, aim) {
  return withDemo(demo, (env, ends) => run('pages', { ...env, BENCH_AIM: String(aim) }, ends));
}

/** It is the evening of the demo's last day: what is counted of the last days is there, and nothing is to come. */
function setClock(edge, port, testSwitch) {
  const headers = { host: new URL(edge).host, 'avrix-test-switch': testSwitch, 'content-type': 'application/json' };
  return new Promise((resolve, reject) => {
    const call = request({ host: '127.0.0.1', port, path: '/_test/clock', method: 'POST', headers }, (answer) => {
      answer.resume();
      if (answer.statusCode < 300) resolve();
      else reject(new Stop(`The clock could not be set: ${answer.statusCode}.`));
    });
    call.on('error', reject);
    call.end(JSON.stringify({ at: Date.parse(`${lastDay}T17:00:00.000Z`) }));
  });
}

/** Adding up takes the disk and a processor, so that nothing is measured beside it. */
async function areAddedUp(databaseUrl) {
  const { createConnection } = await import('mariadb');
  const { hostname, port, username, password, pathname } = new URL(databaseUrl);
  const of = { host: hostname, port: Number(port), user: username, password, database: pathname.slice(1) };
  const connection = await createConnection(of);
  try {
    const isWaiting = async () =>
      (await connection.query("SELECT subject FROM work WHERE kind = 'roll_up' LIMIT 1")).length > 0;
    while (await isWaiting()) await wait(1000);
  } finally {
    await connection.end();
  }
}

async function withDemo(demo, work) {
  const ends = makeEnds();
  endOnSignal(ends);
  const password = 'opens the line for bench';
  try {
    const port = await freePorts(4900, 1);
    const dataDir = inRoot('.data', demo === 'demo' ? 'bench-demo' : `bench-${demo}`);
    const env = { AVRIX_OWNER_MAIL: mail, AVRIX_OWNER_PASSWORD: password, AVRIX_LOG: 'warn' };
    const testSwitch = randomBytes(16).toString('hex');
    const world = await startWorld({ dataDir, port, standinsPort: 4910, demo, lastDay, testSwitch, env }, ends);
    await setClock(world.places.edge, port, testSwitch);
    say('Waiting until all days are added up …');
    await areAddedUp(world.databaseUrl);
    await work(
      {
        BENCH_AVRIX: world.places.avrix,
        BENCH_MAIL: mail,
        BENCH_PASSWORD: password,
        BENCH_FROM: firstDay,
        BENCH_TO: lastDay,
      },
      ends,
    );
  } finally {
    await ends.all();
  }
}

import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { needBuild } from './lib/build.mjs';
import { startMariaDb } from './lib/mariadb.mjs';
import { needModules } from './lib/modules.mjs';
import { browser, database, needNode, needPackages } from './lib/packages.mjs';
import { inRoot, makeDataDir } from './lib/paths.mjs';
import { freePorts } from './lib/ports.mjs';
import { endOnSignal, makeEnds } from './lib/program.mjs';
import { main, say } from './lib/say.mjs';
import { loadTestWorld } from './lib/test-worlds.mjs';
import { standinPorts } from './lib/world.mjs';

/*
 * `npm test` runs everything. `npm test -- plan links` runs the tests whose files are named so; `npm test -- service`
 * those of one kind. `--long` goes more rounds of what is left to chance.
 */

const dataDir = inRoot('.data', 'test');
const reports = join(dataDir, 'reports');

/** Kinds of tests, in the order they run: where their files lie, and what they need to be there. */
const kinds = {
  unit: { folders: ['src', 'standins', 'demo', 'tests/unit'] },
  service: { folders: ['tests/service'], needs: 'database' },
  fault: { folders: ['tests/fault'] },
  browser: { folders: ['tests/browser'], needs: 'worlds' },
};
/** Browser tests at a time, each with a world of its own. */
const workers = 2;

const words = process.argv.slice(2).filter((word) => !word.startsWith('-'));
const named = words.filter((word) => !(word in kinds));
const chosen = Object.keys(kinds).filter((kind) => words.includes(kind));
const isTest = (file) => /\.(test|spec)\.ts$/.test(file) && named.some((name) => file.includes(name));
const isWanted = (kind) =>
  (chosen.length === 0 || chosen.includes(kind)) &&
  (named.length === 0 ||
    kinds[kind].folders.some((folder) =>
      readdirSync(inRoot(folder), { recursive: true }).some((file) => isTest(join(folder, file))),
    ));

const checks = [
  ['Types', 'astro', ['check', '--minimumSeverity', 'error']],
  ['Lint', 'eslint', ['.', '--max-warnings', '0']],
  ['Format', 'prettier', ['--check', '--log-level', 'warn', '.']],
  ['Who may import whom', 'depcruise', ['--config', '.dependency-cruiser.cjs', 'src', 'standins', 'demo']],
  ['Nothing unused', 'knip', []],
];

/** Runs a tool to its end, with what it prints passed on; resolves to true when it went well. */
function run(ends, label, name, args, env = {}) {
  ends.check();
  say(`\n== ${label} (after ${Math.round(process.uptime())} s)`);
  return new Promise((resolve) => {
    const child = spawn(inRoot('node_modules', '.bin', name), args, {
      cwd: inRoot(),
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    });
    // One that is interrupted ends what it runs, also where only it was told.
    const end = ends.add(async () => child.kill('SIGTERM'));
    const gone = (ok) => void end().then(() => resolve(ok));
    child.once('error', () => gone(false));
    child.once('exit', (code) => gone(code === 0));
  });
}

/**
 * What a report file says, vitest's or Playwright's JSON: how many passed and failed, and which ones failed. A run that
 * left none has failed.
 */
function readReport(file, ok) {
  if (!existsSync(file)) return { passed: 0, failed: 1, names: [`no ${file}`] };
  const report = JSON.parse(readFileSync(file, 'utf8'));
  const names = report.suites ? report.suites.flatMap(failedSpecs) : report.testResults.flatMap(failedTests);
  const passed = report.numPassedTests ?? report.stats.expected;
  const failed = report.numFailedTests ?? report.stats.unexpected + report.stats.flaky;
  return { passed, failed: ok || failed > 0 ? failed : 1, names };
}
const failedTests = ({ name, message, assertionResults }) => {
  const failed = assertionResults.filter(({ status }) => status === 'failed');
  if (failed.length === 0) return message ? [`${name}: ${firstLine(message)}`] : [];
  return failed.map(({ fullName, failureMessages }) => `${name}: ${fullName}: ${firstLine(failureMessages[0])}`);
};
const failedSpecs = ({ file, specs = [], suites = [] }) => [
  ...specs.filter(({ ok }) => !ok).map(({ title, line }) => `${file}:${line}: ${title}`),
  ...suites.flatMap(failedSpecs),
];
const firstLine = (text = '') => text.split('\n')[0];

/** Of an application and the stand-ins. */
const portsOfWorld = 1 + standinPorts;

async function makeWorlds() {
  const first = await freePorts(4700, workers * portsOfWorld);
  return Array.from({ length: workers }, (_, slot) => ({
    folder: join(dataDir, `world-${slot + 1}`),
    port: first + slot * portsOfWorld,
    standinsPort: first + slot * portsOfWorld + 1,
    testSwitch: randomBytes(16).toString('hex'),
    ownerPassword: randomBytes(9).toString('hex'),
  }));
}

await main(async () => {
  needNode();
  needPackages({ ...database, ...browser });
  needModules();
  await needBuild();
  const wanted = Object.keys(kinds).filter(isWanted);
  if (wanted.length === 0) {
    say(`No test file is named like ${named.join(' or ')}.`);
    return 1;
  }
  rmSync(dataDir, { recursive: true, force: true });
  mkdirSync(reports, { recursive: true });
  delete process.env.AVRIX_DATABASE_URL;
  process.env.ASTRO_TELEMETRY_DISABLED = '1';

  const ends = makeEnds();
  endOnSignal(ends);
  const env = process.argv.includes('--long') ? { TEST_LONG: 'yes' } : {};
  const worlds = await makeWorlds();
  /** What kinds need, begun at once: worlds load while types, rules and units are checked. */
  const needs = {
    async database() {
      env.TEST_DATABASE_URL = await startMariaDb(makeDataDir(join(dataDir, 'service')), ends);
    },
    async worlds() {
      for (const world of worlds) await loadTestWorld(world, ends);
      env.TEST_WORLDS = JSON.stringify(worlds);
    },
  };
  const begun = Object.fromEntries(
    wanted.flatMap((kind) => {
      const { needs: need } = kinds[kind];
      if (!need) return [];
      const ready = needs[need]();
      ready.catch(() => undefined);
      return [[kind, ready]];
    }),
  );

  const total = { passed: 0, failed: 0, names: [] };
  const add = ({ passed, failed, names }) => {
    total.passed += passed;
    total.failed += failed;
    total.names.push(...names);
  };
  try {
    if (words.length === 0)
      for (const [label, name, args] of checks)
        add(
          (await run(ends, label, name, args))
            ? { passed: 1, failed: 0, names: [] }
            : { passed: 0, failed: 1, names: [label] },
        );
    for (const kind of wanted) {
      await begun[kind];
      const file = join(reports, `${kind}.json`);
      const ok =
        kind === 'browser'
          ? await run(ends, 'Browser', 'playwright', ['test', ...named], { ...env, TEST_REPORT: file })
          : await run(
              ends,
              `Vitest: ${kind}`,
              'vitest',
              [
                ...['run', '--project', kind, ...named],
                ...['--reporter=default', '--reporter=json', `--outputFile.json=${file}`],
              ],
              env,
            );
      add(readReport(file, ok));
    }
  } finally {
    await ends.all();
  }
  if (total.names.length > 0) say(`\nFailed:\n${total.names.join('\n')}`);
  say(`\n${total.passed} passed, ${total.failed} failed`);
  return total.failed === 0 ? 0 : 1;
});

import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { needBuild } from './lib/build.mjs';
import { needModules } from './lib/modules.mjs';
import { browser, database, needNode, needPackages } from './lib/packages.mjs';
import { inRoot } from './lib/paths.mjs';
import { freePorts } from './lib/ports.mjs';
import { endOnSignal, makeEnds } from './lib/program.mjs';
import { main, say } from './lib/say.mjs';
import { startWorld } from './lib/world.mjs';

const dataDir = inRoot('.data', 'test');
const reports = join(dataDir, 'reports');

/** Runs a command to its end, with what it prints passed on; resolves to true when it went well. */
function run(name, command, args, env = {}) {
  say(`\n== ${name}`);
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: inRoot(),
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    });
    child.once('error', () => resolve(false));
    child.once('exit', (code) => resolve(code === 0));
  });
}
const tool = (name, label, args, env) => run(label, inRoot('node_modules', '.bin', name), args, env);

/** Counts of a report file: vitest's or Playwright's JSON; a run that left none has failed. */
function countsOf(file, ok) {
  if (!existsSync(file)) return { passed: 0, failed: 1 };
  const report = JSON.parse(readFileSync(file, 'utf8'));
  const passed = report.numPassedTests ?? report.stats.expected;
  const failed = report.numFailedTests ?? report.stats.unexpected + report.stats.flaky;
  return { passed, failed: ok || failed > 0 ? failed : 1 };
}

await main(async () => {
  needNode();
  needPackages({ ...database, ...browser });
  needModules();
  await needBuild();
  rmSync(dataDir, { recursive: true, force: true });
  mkdirSync(reports, { recursive: true });
  delete process.env.AVRIX_DATABASE_URL;
  process.env.ASTRO_TELEMETRY_DISABLED = '1';

  const ends = makeEnds();
  endOnSignal(ends);
  const testSwitch = randomBytes(16).toString('hex');
  const port = await freePorts(4700, 1);
  const standinsPort = await freePorts(port + 10, 3);
  const env = {
    TEST_PORT: String(port),
    TEST_STANDINS_PORT: String(standinsPort),
    TEST_SWITCH: testSwitch,
    TEST_OWNER_PASSWORD: randomBytes(9).toString('hex'),
    TEST_DATA: dataDir,
    // More rounds of what is left to chance.
    ...(process.argv.includes('--long') ? { TEST_LONG: 'yes' } : {}),
  };
  // The demo loads while types, rules and units are checked.
  const starting = startWorld(
    {
      dataDir,
      port,
      standinsPort,
      demo: 'small',
      lastDay: '2027-02-15',
      testSwitch,
      env: { AVRIX_OWNER_PASSWORD: env.TEST_OWNER_PASSWORD, AVRIX_LOG: 'warn' },
    },
    ends,
  );
  starting.catch(() => undefined);

  const total = { passed: 0, failed: 0 };
  const add = ({ passed, failed }) => {
    total.passed += passed;
    total.failed += failed;
  };
  const check = async (ok) => add((await ok) ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 });
  try {
    await check(tool('tsc', 'Types', ['--noEmit']));
    await check(tool('astro', 'Types of pages', ['check', '--minimumSeverity', 'error']));
    await check(tool('eslint', 'Lint', ['.', '--max-warnings', '0']));
    await check(tool('prettier', 'Format', ['--check', '--log-level', 'warn', '.']));
    await check(
      tool('depcruise', 'Who may import whom', ['--config', '.dependency-cruiser.cjs', 'src', 'standins', 'demo']),
    );
    await check(tool('knip', 'Nothing unused', []));

    const vitest = async (project) => {
      const file = join(reports, `${project}.json`);
      const args = ['run', '--project', project, '--reporter=default', '--reporter=json', `--outputFile.json=${file}`];
      add(countsOf(file, await tool('vitest', `Vitest: ${project}`, args, env)));
    };
    await vitest('unit');
    const world = await starting;
    env.TEST_DATABASE_URL = world.databaseUrl;
    await vitest('service');
    await vitest('fault');
    const file = join(reports, 'browser.json');
    add(countsOf(file, await tool('playwright', 'Browser', ['test'], { ...env, TEST_REPORT: file })));
  } finally {
    await ends.all();
  }
  say(`\n${total.passed} passed, ${total.failed} failed`);
  return total.failed === 0 ? 0 : 1;
});

import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { hashOf, inRoot } from './paths.mjs';
import { say, Stop } from './say.mjs';

/** Runs `npm ci` when the lock file is another one than that of the modules that are here. */
export function needModules() {
  const stamp = inRoot('node_modules', '.avrix-lock');
  const wanted = hashOf([inRoot('package-lock.json')]);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('Installing packages (npm ci) …');
  const run = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: inRoot(),
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (run.status !== 0) throw new Stop('npm ci failed; the lines above say why.');
  writeFileSync(stamp, wanted);
}

import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { say, Stop } from './say.mjs';

/** Debian packages and the file by which each is recognised. */
export const database = {
  'mariadb-server-core': '/usr/sbin/mariadbd',
  'mariadb-client-core': '/usr/bin/mariadb',
};
export const browser = { 'chromium-headless-shell': '/usr/bin/chromium-headless-shell' };

/** Node 20.18 or newer, else a sentence. */
export function needNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 18))
    throw new Stop(`Avrix needs Node 20.18 or newer; this is ${process.version}.`);
}

/** Installs the Debian packages that are missing, as root or through sudo without asking; else names them. */
export function needPackages(wanted) {
  const missing = Object.keys(wanted).filter((name) => !existsSync(wanted[name]));
  if (missing.length === 0) return;
  const root = process.getuid?.() === 0;
  const sudo = !root && spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status === 0;
  const byHand = `apt-get install --no-install-recommends ${missing.join(' ')}`;
  if (!root && !sudo)
    throw new Stop(`These Debian packages are missing and this user may not install them. Run as root:\n  ${byHand}`);
  say(`Installing ${missing.join(', ')} …`);
  const apt = (...args) => {
    const command = ['apt-get', '-y', '-qq', ...args];
    const [file, ...rest] = root ? command : ['sudo', '-n', ...command];
    execFileSync(file, rest, {
      stdio: ['ignore', 'ignore', 'pipe'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  };
  try {
    apt('update');
    apt('install', '--no-install-recommends', ...missing);
  } catch (error) {
    throw new Stop(`Installing ${missing.join(', ')} failed:\n${String(error.stderr ?? error.message).trim()}`);
  }
}

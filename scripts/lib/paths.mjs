import { createHash, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statfsSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Stop } from './say.mjs';

/** The project's root. */
export const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
export const inRoot = (...parts) => join(root, ...parts);

/** Makes a data directory, and says so where there is no room for one. */
export function makeDataDir(path) {
  try {
    mkdirSync(path, { recursive: true, mode: 0o700 });
  } catch (error) {
    throw new Stop(`The data directory ${path} cannot be made: ${error.message}`);
  }
  const { bavail, bsize } = statfsSync(path);
  const free = Math.floor((bavail * bsize) / 2 ** 20);
  if (free < 600) throw new Stop(`The disk with ${path} has ${free} MB left; Avrix needs at least 600 MB.`);
  return path;
}

/** Reads a generated secret of 32 bytes in hex, made once with mode 600. */
export function secret(dataDir, name) {
  const file = join(dataDir, name);
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('hex'), { mode: 0o600 });
  return readFileSync(file, 'utf8').trim();
}

function* filesUnder(path) {
  if (!existsSync(path)) return;
  if (statSync(path).isFile()) yield path;
  else for (const entry of readdirSync(path).sort()) if (entry !== 'node_modules') yield* filesUnder(join(path, entry));
}

/** One hash over the contents of files and folders. */
export function hashOf(paths) {
  const hash = createHash('sha256');
  for (const path of paths) for (const file of filesUnder(path)) hash.update(file).update(readFileSync(file));
  return hash.digest('hex');
}

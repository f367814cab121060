import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { inRoot } from './paths.mjs';
import { Stop } from './say.mjs';
import { standinHosts } from './world.mjs';

/** What a program beside a running `npm start` works with: its database, its key, and what it may call. */
export function besideApplication({ env } = process) {
  const application = env.AVRIX_APPLICATION_DATA ? resolve(env.AVRIX_APPLICATION_DATA) : inRoot('.data', 'avrix');
  const from = (name) => {
    const file = join(application, name);
    if (!existsSync(file))
      throw new Stop(`${file} is missing. Start Avrix once, or set AVRIX_APPLICATION_DATA to its data directory.`);
    return readFileSync(file, 'utf8').trim();
  };
  const standinsPort = existsSync(join(application, 'standins-port')) ? Number(from('standins-port')) : 0;
  return {
    AVRIX_DATABASE_URL: env.AVRIX_DATABASE_URL || from('database-url'),
    AVRIX_SECRET_KEY: env.AVRIX_SECRET_KEY || from('secret-key'),
    AVRIX_PRIVATE_HOSTS: env.AVRIX_PRIVATE_HOSTS || (standinsPort ? standinHosts(standinsPort).join(',') : ''),
  };
}

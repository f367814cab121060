import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { needBuild } from './lib/build.mjs';
import { needModules } from './lib/modules.mjs';
import { needNode } from './lib/packages.mjs';
import { inRoot, makeDataDir } from './lib/paths.mjs';
import { makeEnds, startProgram } from './lib/program.mjs';
import { main, say, Stop } from './lib/say.mjs';
import { standins } from './lib/world.mjs';

/** A worker beside a running `npm start`: on its database and key, with a data directory of its own. */
await main(async () => {
  needNode();
  needModules();
  await needBuild();
  const { env } = process;
  const application = env.AVRIX_APPLICATION_DATA ? resolve(env.AVRIX_APPLICATION_DATA) : inRoot('.data', 'avrix');
  const from = (name) => {
    const file = join(application, name);
    if (!existsSync(file))
      throw new Stop(`${file} is missing. Start Avrix once, or set AVRIX_APPLICATION_DATA to its data directory.`);
    return readFileSync(file, 'utf8').trim();
  };
  const dataDir = makeDataDir(env.AVRIX_DATA ? resolve(env.AVRIX_DATA) : inRoot('.data', `worker-${process.pid}`));
  const ends = makeEnds();
  const stopped = new Promise((done) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => done(0));
  });
  const standinsPort = existsSync(join(application, 'standins-port')) ? Number(from('standins-port')) : 0;
  const hosts = standins.map((name, i) => `${name}.localhost:${standinsPort + i}`);
  try {
    const worker = await startProgram(
      'app/worker.js',
      {
        AVRIX_DATA: dataDir,
        AVRIX_DATABASE_URL: env.AVRIX_DATABASE_URL || from('database-url'),
        AVRIX_SECRET_KEY: env.AVRIX_SECRET_KEY || from('secret-key'),
        AVRIX_PRIVATE_HOSTS: env.AVRIX_PRIVATE_HOSTS || (standinsPort ? hosts.join(',') : ''),
      },
      ends,
    );
    say('A worker is running. Ctrl-C ends it.');
    return await Promise.race([stopped, worker.exited]);
  } finally {
    await ends.all();
  }
});

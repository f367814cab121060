import { resolve } from 'node:path';
import { besideApplication } from './lib/beside.mjs';
import { needBuild } from './lib/build.mjs';
import { needModules } from './lib/modules.mjs';
import { needNode } from './lib/packages.mjs';
import { inRoot, makeDataDir } from './lib/paths.mjs';
import { makeEnds, startProgram } from './lib/program.mjs';
import { main, say } from './lib/say.mjs';

/** A worker beside a running `npm start`: on its database and key, with a data directory of its own. */
await main(async () => {
  needNode();
  needModules();
  await needBuild();
  const { env } = process;
  const dataDir = makeDataDir(env.AVRIX_DATA ? resolve(env.AVRIX_DATA) : inRoot('.data', `worker-${process.pid}`));
  const ends = makeEnds();
  const stopped = new Promise((done) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => done(0));
  });
  try {
    const worker = await startProgram('app/worker.js', { AVRIX_DATA: dataDir, ...besideApplication() }, ends);
    say('A worker is running. Ctrl-C ends it.');
    return await Promise.race([stopped, worker.exited]);
  } finally {
    await ends.all();
  }
});

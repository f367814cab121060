import { spawn } from 'node:child_process';
import { watch } from 'node:fs';
import { inRoot } from './lib/paths.mjs';
import { main, say } from './lib/say.mjs';

const settleAfter = 300;

/**
 * `npm start` that begins again when a source changes. It runs the build, as the tests do: the content security policy
 * and the bundles exist only there.
 */
await main(async () => {
  let child = null;
  let ended = Promise.resolve();
  const begin = () => {
    child = spawn(process.execPath, [inRoot('scripts', 'start.mjs')], { stdio: 'inherit', detached: true });
    ended = new Promise((resolve) => child.once('exit', resolve));
  };
  const finish = async () => {
    child.kill('SIGTERM');
    await ended;
  };

  let wait = null;
  let turn = Promise.resolve();
  const again = () => {
    clearTimeout(wait);
    wait = setTimeout(() => {
      turn = turn.then(async () => {
        say('A source changed.');
        await finish();
        begin();
      });
    }, settleAfter);
  };
  const watchers = ['src', 'standins', 'demo'].map((folder) => watch(inRoot(folder), { recursive: true }, again));

  begin();
  await new Promise((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, resolve);
  });
  for (const watcher of watchers) watcher.close();
  await finish();
});

import { spawn } from 'node:child_process';
import { inRoot } from './paths.mjs';
import { Stop } from './say.mjs';

/**
 * What was started and must be ended, newest first. A thing is known from the moment it is spawned, so that a start that
 * is cut off in the middle leaves nothing behind.
 */
export function makeEnds() {
  const ends = new Set();
  let closed = false;
  return {
    /** Throws once everything was ended: nothing more may be started then. */
    check() {
      if (closed) throw new Stop('');
    },
    add(end) {
      const once = async () => {
        ends.delete(once);
        await end();
      };
      ends.add(once);
      return once;
    },
    async all() {
      closed = true;
      for (const end of [...ends].reverse()) await end();
    },
  };
}

/** Ends what was started, too, when somebody interrupts. */
export function endOnSignal(ends) {
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
    process.once(signal, () => void ends.all().then(() => process.exit(130)));
}

/**
 * Starts one of the built programs and waits until it says that it is ready.
 * @returns what it said, a function that ends it, one that cuts it off in the midst, and a promise for its exit code
 */
export async function startProgram(file, env, ends, { quiet = false } = {}) {
  ends.check();
  const child = spawn(process.execPath, ['--enable-source-maps', inRoot('dist', file)], {
    env: { ...process.env, NODE_ENV: 'production', ...env },
    stdio: ['ignore', quiet ? 'ignore' : 'inherit', 'inherit', 'ipc'],
    // A group of its own: Ctrl-C reaches only the starter, which ends everything in order.
    detached: true,
  });
  const exited = new Promise((resolve) => child.once('exit', (code) => resolve(code ?? 1)));
  const end = ends.add(async () => {
    child.kill('SIGTERM');
    const late = setTimeout(() => child.kill('SIGKILL'), 10_000);
    await exited;
    clearTimeout(late);
  });
  const said = await Promise.race([new Promise((resolve) => child.once('message', resolve)), exited]);
  // A program that ends before it is ready has already printed its own sentence.
  if (typeof said === 'number') throw new Stop('');
  const cutOff = async () => {
    child.kill('SIGKILL');
    await end();
  };
  return { said, end, cutOff, exited };
}

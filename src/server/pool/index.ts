import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import Piscina from 'piscina';
import type { Progress } from '../../core/results/progress';
import type * as tasks from './main';

type Tasks = typeof tasks;
type Given<Name extends keyof Tasks> = Parameters<Tasks[Name]>[0];
type Answer<Name extends keyof Tasks> = Awaited<ReturnType<Tasks[Name]>>;

/** Memory of one thread; more ends it. */
const mostMegabytes = 512;

/** Work in the pool came to no end: its message says why, as a verb: "takes more than 20 seconds to read". */
export class PoolFailed extends Error {}

/** The bundle beside the running one; tests run the sources, and the bundle that was built of them. */
function bundle(): string {
  const beside = join(fileURLToPath(new URL('.', import.meta.url)), 'pool.js');
  return existsSync(beside) ? beside : resolve('dist/app/pool.js');
}

let pool: Piscina | null = null;
const started = (): Piscina =>
  (pool ??= new Piscina({
    filename: bundle(),
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 5000,
    maxQueue: 200,
    resourceLimits: { maxOldGenerationSizeMb: mostMegabytes },
  }));

/**
 * Runs a piece of work on a thread of its own, so that neither its length nor its end touches anything else.
 *
 * @param milliseconds after which it is ended
 * @param handedOver ports in what is given, which the thread has from then on
 * @throws PoolFailed where it took too long or too much memory; whatever it throws itself
 */
export async function runInPool<Name extends keyof Tasks>(
  name: Name,
  given: Given<Name>,
  milliseconds: number,
  handedOver: MessagePort[] = [],
): Promise<Answer<Name>> {
  try {
    const signal = AbortSignal.timeout(milliseconds);
    return (await started().run(given, { name, signal, transferList: handedOver })) as Answer<Name>;
  } catch (thrown) {
    const { name: kind, code } = thrown as Error & { code?: string };
    if (kind === 'AbortError') throw new PoolFailed(`takes more than ${milliseconds / 1000} seconds to read`);
    if (code === 'ERR_WORKER_OUT_OF_MEMORY') throw new PoolFailed('takes more memory to read than is given');
    throw thrown;
  }
}

/** What a piece of work is given to say how far it is, besides what it works on. */
interface Reporting {
  progress?: MessagePort;
}

/**
 * The same, of work that says how far it is.
 *
 * @param onProgress is called with what the work tells of itself
 */
export async function runReporting<Name extends keyof Tasks>(
  name: Name,
  given: Given<Name> & Reporting,
  milliseconds: number,
  onProgress: (progress: Progress) => void,
): Promise<Answer<Name>> {
  const { port1, port2 } = new MessageChannel();
  port1.on('message', onProgress);
  try {
    return await runInPool(name, { ...given, progress: port2 }, milliseconds, [port2]);
  } finally {
    port1.close();
  }
}

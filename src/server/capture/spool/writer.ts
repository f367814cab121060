import { setTimeout as wait } from 'node:timers/promises';
import type { Context } from '../../context';
import { log } from '../../log';
import { storeHits, type SpooledHit } from './store';
import type { Spool } from './spool';

const recordsAtOnce = 500;
const betweenLooks = 50;
const whileAway = 1000;

/** Moves what was spooled into the database. While the database is away it waits; nothing leaves the spool before. */
export function makeSpoolWriter(context: Context, spool: Spool) {
  let stopped = false;
  let loop: Promise<void> = Promise.resolve();
  let turn: Promise<boolean> = Promise.resolve(false);

  /** One batch, one at a time; false where nothing stood in the spool. */
  const step = () => (turn = turn.catch(() => false).then(writeBatch));

  async function writeBatch(): Promise<boolean> {
    const taken = await spool.take(recordsAtOnce);
    if (!taken) return false;
    await storeHits(
      context,
      taken.texts.flatMap((text) => JSON.parse(text) as SpooledHit[]),
    );
    await taken.settle();
    return true;
  }

  async function run(): Promise<void> {
    while (!stopped) {
      try {
        if (!(await step())) await wait(betweenLooks);
      } catch (error) {
        log.warn({ error: (error as Error).message }, 'spool waits for the database');
        await wait(whileAway);
      }
    }
  }

  return {
    start() {
      loop = run();
    },
    async stop() {
      stopped = true;
      await loop;
    },
    /** Writes until the spool is empty. @throws where the database is away */
    async drain(): Promise<void> {
      while (await step());
    },
  };
}

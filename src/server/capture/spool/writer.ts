/* eslint-disable no-await-in-loop -- batches go in the order they came, with rests between */
import { setTimeout as wait } from 'node:timers/promises';
import type { Context } from '../../context';
import type { Releases } from '../../releases/releases';
import { storeClicks, type SpooledClick } from '../../links/clicks';
import { storeCountedLandings, type SpooledLanding } from '../counted-landings';
import { log } from '../../log';
import { hitsOf, storeHits, type SpooledBatch } from './store';
import type { Spool } from './spool';

const recordsAtOnce = 1000;
/** While pages are being answered the writer takes less at a time, so that nobody waits for it long. */
const recordsWhilePressed = 50;
/** Parts of a batch that are stored side by side: one is made ready while the database takes another. */
const partsAtATime = 3;
const betweenLooks = 50;
const whileAway = 1000;
/** What is in the database leaves the disk after so long (ms), however little it is. */
const longestKept = 600_000;
/** Records a millisecond from which on that is so: a fifth of what one process can answer. */
const pressedFrom = 0.3;
/** It then rests this many times as long as it works: answers come first. */
const restWhilePressed = 5;

/** Moves what was spooled into the database. While the database is away it waits; nothing leaves the spool before. */
export function makeSpoolWriter(context: Context, spool: Spool, releases: Releases) {
  let stopped = false;
  let pressed = false;
  let loop: Promise<void> = Promise.resolve();
  let turn: Promise<boolean> = Promise.resolve(false);

  /** One batch, one at a time; false where nothing stood in the spool. */
  const step = (records: number) => (turn = turn.catch(() => false).then(() => writeBatch(records)));

  async function writeBatch(records: number): Promise<boolean> {
    const taken = await spool.take(records);
    if (!taken) return false;
    const size = Math.ceil(taken.texts.length / partsAtATime);
    const parts = Array.from({ length: partsAtATime }, (_, i) => taken.texts.slice(i * size, (i + 1) * size));
    await Promise.all(parts.map(storePart));
    await taken.settle();
    return true;
  }

  /** What pages sent, what opened short links and what was only counted stand in one spool, each by its own form. */
  async function storePart(texts: string[]): Promise<void> {
    const records = texts.map((text) => JSON.parse(text) as SpooledBatch | SpooledClick | SpooledLanding);
    await storeHits(
      context,
      records.flatMap((record) => ('sent' in record ? hitsOf(record) : [])),
    );
    await storeClicks(
      context,
      releases,
      records.flatMap((record) => ('click' in record ? [record] : [])),
    );
    await storeCountedLandings(
      context,
      records.flatMap((record) => ('landing' in record ? [record] : [])),
    );
  }

  async function run(): Promise<void> {
    while (!stopped) {
      try {
        const before = { at: performance.now(), appended: spool.appended() };
        if (!(await step(pressed ? recordsWhilePressed : recordsAtOnce))) {
          await spool.turn(longestKept);
          await wait(betweenLooks);
        } else if (pressed) await wait(restWhilePressed * (performance.now() - before.at));
        const milliseconds = performance.now() - before.at;
        pressed = (spool.appended() - before.appended) / milliseconds > pressedFrom;
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
      while (await step(recordsAtOnce));
    },
  };
}

/* eslint-disable no-await-in-loop -- each hand takes the next item when it is free */
import { DatabaseError } from 'sequelize';
import { waitAfter } from '../../core/reportbacks';
import { nowMs } from '../clock';
import type { WorkItem } from '../db';
import { log } from '../log';
import { ServiceAway } from '../platforms/call';
import type { Job, JobResult } from './job';

type Run = Job['run'];

/** How many pieces of one lane are worked on at a time, each over a connection of its own. */
const atATime = 6;

/** Into how many parts a batch is divided, so that one is worked out while the database stores another. */
const partsAtATime = 3;

/** How long (ms) what was read for many subjects together is taken to be so still. */
const readHolds = 10_000;

/** The wait (ms) after the database could not do it, such as where others held the same rows for long: that soon passes. */
const afterDatabase = 2_000;

/** What becomes of a piece whose work threw: tried again after a wait, longer each time or as long as was asked. */
export function putBack(item: WorkItem, error: unknown): { item: WorkItem; failed: string; retryAt: Date } {
  const asked = error instanceof ServiceAway ? error.retryAfter : null;
  const first = error instanceof DatabaseError ? afterDatabase : undefined;
  const retryAt = new Date(nowMs() + (asked ?? waitAfter(item.attempts + 1, Math.random(), first)));
  return { item, failed: (error as Error).message, retryAt };
}

/** Does one piece, and says what became of it. */
const settlingOf =
  (work: (businessId: string, subject: string) => Promise<Date | null>, isHopeless: (error: unknown) => boolean) =>
  async (item: WorkItem): Promise<JobResult> => {
    try {
      return { item, again: await work(item.businessId, item.subject) };
    } catch (error) {
      const { message } = error as Error;
      log.warn({ kind: item.kind, subject: item.subject, error: message }, 'work put back');
      return isHopeless(error) ? { item, gaveUp: message } : putBack(item, error);
    }
  };

/** Does one subject after the other, in their order, where one builds on another. What it throws puts that one back. */
export function inOrder(work: (businessId: string, subject: string) => Promise<Date | null>): Run {
  const settle = settlingOf(work, () => false);
  return async (items) => {
    const results: JobResult[] = [];
    for (const item of items) results.push(await settle(item));
    return results;
  };
}

/** Takes items off a list side by side, some at a time, until none is left or it is to take no more. */
async function sideBySide(
  left: WorkItem[],
  take: (item: WorkItem) => Promise<void>,
  goesOn: () => boolean = () => true,
): Promise<void> {
  const hand = async () => {
    for (let item = goesOn() && left.shift(); item; item = goesOn() && left.shift()) await take(item);
  };
  await Promise.all(Array.from({ length: atATime }, hand));
}

/**
 * Does subjects side by side, some at a time. What it throws puts that one subject back, the others go on.
 * @param isHopeless whether what was thrown would be thrown again and again
 */
export function oneByOne(
  work: (businessId: string, subject: string) => Promise<Date | null>,
  isHopeless: (error: unknown) => boolean = () => false,
): Run {
  const settle = settlingOf(work, isHopeless);
  return async (items) => {
    const results: JobResult[] = [];
    await sideBySide([...items], async (item) => void results.push(await settle(item)));
    return results;
  };
}

/** Work on subjects for which everything was read together. */
export interface Begun {
  /** Does one. What it throws puts that one back. */
  work(subject: string): Promise<Date | null>;
  /** Stores what became of all that were done. What it throws puts all of them back. */
  store(): Promise<void>;
}

/**
 * Does subjects side by side, after what they need was read for all of them together. What was read holds for ten seconds:
 * what is not begun by then, because a service is slow, is read again, if it is still held.
 */
export function readTogether(begin: (businessId: string, subjects: string[]) => Promise<Begun>): Run {
  return async (items, { still }) => {
    const results: JobResult[] = [];
    for (let left = [...items]; left.length > 0; left = await still(left))
      results.push(...(await doFresh(left, begin)));
    return results;
  };
}

/**
 * Reads what work needs and does it while that holds; takes off the list what it did, or what it put back. Where reading
 * throws, each is tried alone, so that one that cannot be done does not hold up the others.
 */
async function doFresh(
  left: WorkItem[],
  begin: (businessId: string, subjects: string[]) => Promise<Begun>,
): Promise<JobResult[]> {
  const settled: JobResult[] = [];
  try {
    const begun = await begin(
      left[0]!.businessId,
      left.map(({ subject }) => subject),
    );
    const settle = settlingOf(
      (_businessId, subject) => begun.work(subject),
      () => false,
    );
    const readAt = performance.now();
    await sideBySide(
      left,
      async (item) => void settled.push(await settle(item)),
      () => performance.now() - readAt < readHolds,
    );
    await begun.store();
    return settled;
  } catch (error) {
    const back = [...settled.map(({ item }) => item), ...left.splice(0)];
    if (settled.length === 0 && back.length > 1) {
      const alone: JobResult[] = [];
      for (const item of back) alone.push(...(await doFresh([item], begin)));
      return alone;
    }
    log.warn({ kind: back[0]!.kind, subjects: back.length, error: (error as Error).message }, 'work put back');
    return back.map((item) => putBack(item, error));
  }
}

/**
 * Does many subjects of a business at once, faster than one by one. Where that throws, each subject is tried alone, so
 * that one that cannot be done does not hold up the others.
 */
export function inBatches(work: (businessId: string, subjects: string[]) => Promise<Map<string, Date | null>>): Run {
  const alone = oneByOne(async (businessId, subject) => (await work(businessId, [subject])).get(subject) ?? null);
  return async (items, held) => {
    const results: JobResult[] = [];
    const doPart = async (part: WorkItem[]) => {
      try {
        const again = await work(
          part[0]!.businessId,
          part.map((item) => item.subject),
        );
        results.push(...part.map((item) => ({ item, again: again.get(item.subject) ?? null })));
      } catch (error) {
        log.warn({ subjects: part.length, error: (error as Error).message }, 'work done one by one');
        results.push(...(await alone(part, held)));
      }
    };
    const size = Math.ceil(items.length / partsAtATime);
    const parts = Array.from({ length: partsAtATime }, (_, i) => items.slice(i * size, (i + 1) * size));
    await Promise.all(parts.filter((part) => part.length > 0).map(doPart));
    return results;
  };
}

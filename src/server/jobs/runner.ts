import { setTimeout as wait } from 'node:timers/promises';
import { waitAfter } from '../../core/reportbacks';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { claimWork, dueKinds, finishWork, putBackWork, type WorkItem, type WorkKind } from '../db';
import { log } from '../log';
import { ServiceAway } from '../platforms/call';
import { groupBy } from '../group-by';
import type { JobHandler, JobResult } from './types';

const claimAtOnce: Record<WorkKind, number> = {
  visitor: 500,
  crm_poll: 5,
  crm_event: 20,
  enquiry: 20,
  report_back: 1500,
  platform_report: 5,
  page_check: 20,
};
const betweenRounds = 250;

/** How many pieces of one kind are worked on at a time, each over a connection of its own. */
const atATime = 6;

/** Into how many parts a batch is divided, so that one is worked out while the database stores another. */
const partsAtATime = 3;

/** Makes a handler of a function for one subject. What it throws puts that one subject back, the others go on. */
export function one(work: (businessId: string, subject: string) => Promise<Date | null>): JobHandler {
  const settle = async (item: WorkItem): Promise<JobResult> => {
    try {
      return { item, again: await work(item.businessId, item.subject) };
    } catch (error) {
      const asked = error instanceof ServiceAway ? error.retryAfter : null;
      const retryAt = new Date(nowMs() + (asked ?? waitAfter(item.attempts + 1, Math.random())));
      log.warn({ kind: item.kind, subject: item.subject, error: (error as Error).message }, 'work put back');
      return { item, failed: (error as Error).message, retryAt };
    }
  };
  return async (items) => {
    const results: JobResult[] = [];
    const left = [...items];
    const lane = async () => {
      for (let item = left.shift(); item; item = left.shift()) results.push(await settle(item));
    };
    await Promise.all(Array.from({ length: atATime }, lane));
    return results;
  };
}

/**
 * Makes a handler of a function that does many subjects of a business at once, faster than one by one. Where that
 * throws, each subject is tried alone, so that one that cannot be done does not hold up the others.
 */
export function together(
  work: (businessId: string, subjects: string[]) => Promise<Map<string, Date | null>>,
): JobHandler {
  const alone = one(async (businessId, subject) => (await work(businessId, [subject])).get(subject) ?? null);
  return async (items) => {
    const results: JobResult[] = [];
    const doPart = async (businessId: string, part: WorkItem[]) => {
      const subjects = part.map((item) => item.subject);
      try {
        const again = await work(businessId, subjects);
        results.push(...part.map((item) => ({ item, again: again.get(item.subject) ?? null })));
      } catch (error) {
        log.warn({ subjects: subjects.length, error: (error as Error).message }, 'work done one by one');
        results.push(...(await alone(part)));
      }
    };
    for (const [businessId, own] of groupBy(items, (item) => item.businessId)) {
      const size = Math.ceil(own.length / partsAtATime);
      const parts = Array.from({ length: partsAtATime }, (_, i) => own.slice(i * size, (i + 1) * size));
      await Promise.all(parts.filter((part) => part.length > 0).map((part) => doPart(businessId, part)));
    }
    return results;
  };
}

/** Runs background work: claims what is due, hands it to its handler, settles each piece. */
export function makeRunner({ db }: Context, handlers: Record<WorkKind, JobHandler>) {
  let stopped = false;
  let paused = false;
  let loop: Promise<void> = Promise.resolve();

  /** One pass over the kinds that are due; returns how many pieces were taken up. */
  async function round(): Promise<number> {
    let taken = 0;
    for (const kind of await dueKinds(db)) {
      const items = await claimWork(db, kind, claimAtOnce[kind]);
      taken += items.length;
      if (items.length > 0) await settle(await handlers[kind](items), items);
    }
    return taken;
  }

  async function settle(results: JobResult[], items: WorkItem[]): Promise<void> {
    await finishWork(
      db,
      results.filter((result) => 'again' in result),
    );
    for (const result of results)
      if ('failed' in result) await putBackWork(db, result.item, result.retryAt, result.failed);
    const unanswered = items.length - results.length;
    if (unanswered > 0) log.error({ unanswered }, 'a handler did not answer for all its work');
  }

  async function run(): Promise<void> {
    while (!stopped) {
      let taken = 0;
      try {
        taken = paused ? 0 : await round();
      } catch (error) {
        log.error({ error: (error as Error).message }, 'background work failed');
      }
      if (taken === 0) await wait(betweenRounds);
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
    /** Lets the replay run the work itself, in step with the clock it moves. */
    pause(value: boolean) {
      paused = value;
    },
    /** Runs until nothing is due any more; returns how many pieces were done. */
    async runToRest(): Promise<number> {
      let total = 0;
      for (let taken = -1; taken !== 0; total += taken) taken = await round();
      return total;
    },
  };
}

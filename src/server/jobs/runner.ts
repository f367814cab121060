/* eslint-disable no-await-in-loop -- a lane goes round after round */
import { setTimeout as wait } from 'node:timers/promises';
import type { Context } from '../context';
import {
  claimWork,
  dueKinds,
  dueLanes,
  finishWork,
  giveUpWork,
  putBackWork,
  renewEvery,
  renewWork,
  workMarked,
  type Lane,
  type WorkItem,
  type WorkKind,
} from '../db';
import { groupBy } from '../../core/group-by';
import { log } from '../log';
import { putBack } from './handlers';
import type { Held, Job, JobResult } from './job';

/** How long (ms) nothing is looked for: after work was marked here, and where nothing was. */
const [soonAfter, betweenLooks] = [40, 1000];

/**
 * Runs background work: claims what is due, hands it to its job, settles each piece. Kinds and lanes work side by side, so
 * that a slow service holds up nothing but its own lane.
 */
export function makeRunner({ db }: Context, jobs: Job[]) {
  const jobOf = new Map(jobs.map((job) => [job.kind, job]));
  const held: Held = { still: (items) => renewWork(db, items) };
  /** Lanes that this process works on, by kind. */
  const busy = new Map(jobs.map(({ kind }) => [kind, new Map<string, Lane>()]));
  const running = new Set<Promise<void>>();
  let stopped = false;
  let paused = false;
  let loop: Promise<void> = Promise.resolve();
  let wake = (): void => undefined;

  /** Does claimed work of one lane, its leases renewed meanwhile, and settles each piece. */
  async function work(job: Job, items: WorkItem[]): Promise<void> {
    const renewing = setInterval(() => void renewWork(db, items).catch(() => undefined), renewEvery());
    let results: JobResult[];
    try {
      results = await job.run(items, held);
    } catch (error) {
      log.error({ kind: job.kind, error: (error as Error).message }, 'background work failed');
      results = items.map((item) => putBack(item, error));
    } finally {
      clearInterval(renewing);
    }
    await finishWork(
      db,
      results.filter((result) => 'again' in result),
    );
    for (const result of results)
      if ('failed' in result) await putBackWork(db, result.item, result.retryAt, result.failed);
      else if ('gaveUp' in result) await giveUpWork(db, result.item, result.gaveUp);
    // What it says nothing of is somebody else's by now, or forgotten.
    const answered = new Set(results.map(({ item }) => item.subject));
    for (const item of await renewWork(
      db,
      items.filter(({ subject }) => !answered.has(subject)),
    )) {
      const { retryAt, failed } = putBack(item, new Error('nothing was said of it'));
      await putBackWork(db, item, retryAt, failed);
    }
  }

  /** Works on a lane until nothing of it is due. */
  async function workLane(job: Job, lane: Lane): Promise<void> {
    while (!stopped && !paused) {
      const items = await claimWork(db, job.kind, job.claim, lane);
      if (items.length === 0) return;
      await work(job, items);
    }
  }

  /** Begins to work on lanes that are due and that nobody here works on. */
  async function beginLanes(job: Job): Promise<void> {
    const own = busy.get(job.kind)!;
    const free = job.lanes - own.size;
    if (free <= 0) return;
    for (const lane of await dueLanes(db, job.kind, [...own.values()], free)) {
      const key = `${lane.businessId} ${lane.lane}`;
      own.set(key, lane);
      const task: Promise<void> = workLane(job, lane)
        .catch((error: unknown) => log.error({ error: (error as Error).message }, 'background work failed'))
        .finally(() => {
          own.delete(key);
          running.delete(task);
          wake();
        });
      running.add(task);
    }
  }

  async function run(): Promise<void> {
    const marked = () => wake();
    workMarked.on('marked', marked);
    while (!stopped) {
      const woken = new Promise<void>((resolve) => (wake = resolve));
      try {
        if (!paused) for (const kind of await dueKinds(db)) await beginLanes(jobOf.get(kind)!);
      } catch (error) {
        log.error({ error: (error as Error).message }, 'background work could not be looked for');
      }
      await Promise.race([woken, wait(betweenLooks)]);
      await wait(soonAfter);
    }
    workMarked.off('marked', marked);
    await Promise.all(running);
  }

  /** One pass over the kinds that are due; returns how many pieces were taken up. */
  async function round(later: readonly WorkKind[]): Promise<number> {
    let taken = 0;
    for (const kind of await dueKinds(db)) {
      if (later.includes(kind)) continue;
      const job = jobOf.get(kind)!;
      const items = await claimWork(db, kind, job.claim);
      taken += items.length;
      const lanes = groupBy(items, ({ businessId, lane }) => `${businessId} ${lane}`);
      await Promise.all([...lanes.values()].map((own) => work(job, own)));
    }
    return taken;
  }

  return {
    start() {
      loop = run();
    },
    async stop() {
      stopped = true;
      wake();
      await loop;
    },
    /** Lets the replay run the work itself, in step with the clock it moves. */
    pause(value: boolean) {
      paused = value;
      wake();
    },
    /**
     * Runs until nothing is due any more; returns how many pieces were done.
     * @param later kinds that are left for another time
     */
    async runToRest(later: readonly WorkKind[] = []): Promise<number> {
      let total = 0;
      for (let taken = -1; taken !== 0; total += taken) taken = await round(later);
      return total;
    },
  };
}

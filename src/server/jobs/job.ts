import type { WorkItem, WorkKind } from '../db';

/**
 * What became of a piece of work: done (due `again`, or never), failed and to be tried at `retryAt`, or given up, because
 * trying again would fail in the same way.
 */
export type JobResult =
  | { item: WorkItem; again: Date | null }
  | { item: WorkItem; failed: string; retryAt: Date }
  | { item: WorkItem; gaveUp: string };

/** What a job may ask while it runs. */
export interface Held {
  /** Those of the pieces that are still held, their leases renewed; the others are somebody else's by now. */
  still(items: WorkItem[]): Promise<WorkItem[]>;
}

/** One kind of background work. */
export interface Job {
  kind: WorkKind;
  /** Pieces that are claimed at once. */
  claim: number;
  /** Lanes of the kind that this process works on side by side; each for itself. */
  lanes: number;
  /**
   * Does claimed work of one business and lane and answers for each piece. What it throws puts all of it back.
   * Leases are renewed while it runs.
   */
  run(items: WorkItem[], held: Held): Promise<JobResult[]>;
}

export const defineJob = (job: Job): Job => job;

import type { WorkItem } from '../db';

/** What became of a piece of work: done (due `again`, or never), or failed and to be tried at `retryAt`. */
export type JobResult = { item: WorkItem; again: Date | null } | { item: WorkItem; failed: string; retryAt: Date };

/** Does a batch of claimed work and answers for each piece. */
export type JobHandler = (items: WorkItem[]) => Promise<JobResult[]>;

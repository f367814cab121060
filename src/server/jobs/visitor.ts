import type { makeDeriveVisitors } from '../capture/derive';
import { inBatches } from './handlers';
import { defineJob } from './job';

/** Derives visitors whose hits came, or whom something else concerns. */
export const visitorJob = (derive: ReturnType<typeof makeDeriveVisitors>) =>
  defineJob({ kind: 'visitor', claim: 500, lanes: 2, run: inBatches(derive) });

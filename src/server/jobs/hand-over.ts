import type { makeHandOver } from '../leads/hand-over';
import { oneByOne } from './handlers';
import { defineJob } from './job';

/** Hands leads of platforms' own forms over to the CRM. */
export const handOverJob = (handOver: ReturnType<typeof makeHandOver>) =>
  defineJob({ kind: 'hand_over', claim: 30, lanes: 4, run: oneByOne(handOver) });

import type { makeRollUp } from '../rollups/roll-up';
import { oneByOne } from './handlers';
import { defineJob } from './job';

/** Adds up by day what pages count over weeks. */
export const rollUpJob = (rollUp: ReturnType<typeof makeRollUp>) =>
  defineJob({ kind: 'roll_up', claim: 1, lanes: 2, run: oneByOne(rollUp) });

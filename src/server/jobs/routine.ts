import type { makeStepOn } from '../leads/routines/step';
import type { TakeLeads } from '../leads/routines/take';
import { inBatches, oneByOne } from './handlers';
import { defineJob } from './job';

/** Takes leads that were followed anew into routines, or has them let go. */
export const routineTakeJob = ({ takeOf }: Pick<TakeLeads, 'takeOf'>) =>
  defineJob({ kind: 'routine_take', claim: 300, lanes: 2, run: inBatches(takeOf) });

/** Looks for leads that time alone brings into a segment. */
export const routineLookJob = ({ look }: Pick<TakeLeads, 'look'>) =>
  defineJob({ kind: 'routine_look', claim: 10, lanes: 2, run: oneByOne(look) });

/** Takes leads from step to step. */
export const routineStepJob = (stepOn: ReturnType<typeof makeStepOn>) =>
  defineJob({ kind: 'routine_step', claim: 30, lanes: 4, run: oneByOne(stepOn) });

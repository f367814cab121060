import type { Brakes } from '../reportbacks/brakes';
import { oneByOne } from './handlers';
import { defineJob } from './job';

/** Looks whether what is to be told is far outside of what is usual, for a business as a whole. */
export const brakeJob = ({ look }: Pick<Brakes, 'look'>) =>
  defineJob({ kind: 'brake', claim: 1, lanes: 2, run: oneByOne(look) });

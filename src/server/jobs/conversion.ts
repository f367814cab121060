import type { makeFollowConversions } from '../conversions/follow';
import { inBatches } from './handlers';
import { defineJob } from './job';

/** Follows a conversion to its outcomes and what is to be told of them. */
export const conversionJob = (follow: ReturnType<typeof makeFollowConversions>) =>
  defineJob({ kind: 'conversion', claim: 300, lanes: 2, run: inBatches(follow) });

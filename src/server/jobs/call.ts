import type { makeFollowCall } from '../leads/calls/follow';
import { inOrder } from './handlers';
import { defineJob } from './job';

/** Follows calls: one after the other, so that one caller's find each other. */
export const callJob = (follow: ReturnType<typeof makeFollowCall>) =>
  defineJob({ kind: 'call', claim: 60, lanes: 2, run: inOrder(follow) });

import type { makeFollowSubscriptions } from '../subscriptions/follow';
import { inBatches } from './handlers';
import { defineJob } from './job';

/** Follows a subscription to its outcomes and what is to be told of them. */
export const subscriptionJob = (follow: ReturnType<typeof makeFollowSubscriptions>) =>
  defineJob({ kind: 'subscription', claim: 300, lanes: 2, run: inBatches(follow) });

import type { makeFollowOrders } from '../orders/follow';
import { inBatches } from './handlers';
import { defineJob } from './job';

/** Follows an order to its outcome and what is to be told of it. */
export const orderJob = (follow: ReturnType<typeof makeFollowOrders>) =>
  defineJob({ kind: 'order', claim: 300, lanes: 2, run: inBatches(follow) });

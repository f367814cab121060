import type { makePullLeads } from '../leads/pull-leads';
import { oneByOne } from './handlers';
import { defineJob } from './job';

/** Fetches what people sent with a platform's own forms; each account is a lane. */
export const leadPullJob = (pull: ReturnType<typeof makePullLeads>) =>
  defineJob({ kind: 'lead_pull', claim: 1, lanes: 4, run: oneByOne(pull) });

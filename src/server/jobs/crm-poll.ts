import type { makeCrmPoll } from '../leads/crm-poll';
import { oneByOne } from './handlers';
import { defineJob } from './job';

/** Asks a CRM what changed, for webhooks that went missing; each account is a lane. */
export const crmPollJob = (poll: ReturnType<typeof makeCrmPoll>) =>
  defineJob({ kind: 'crm_poll', claim: 1, lanes: 4, run: oneByOne(poll) });

import type { makeCrmEvents } from '../leads/crm-events';
import { isRefusal } from '../platforms/call';
import { oneByOne } from './handlers';
import { defineJob } from './job';

/** Reads back the record that an event of a CRM names; each account is a lane. */
export const crmEventJob = ({ read }: ReturnType<typeof makeCrmEvents>) =>
  defineJob({
    kind: 'crm_event',
    claim: 20,
    lanes: 4,
    run: oneByOne(async (businessId, subject) => {
      await read(businessId, subject);
      return null;
    }, isRefusal),
  });

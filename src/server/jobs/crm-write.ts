import type { WriteBack } from '../leads/write-back';
import { oneByOne } from './handlers';
import { defineJob } from './job';

/** Writes into a CRM what is to stand in the records of an enquiry; each account is a lane. */
export const crmWriteJob = ({ run }: Pick<WriteBack, 'run'>) =>
  defineJob({ kind: 'crm_write', claim: 60, lanes: 4, run: oneByOne(run) });

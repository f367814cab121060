import type { WriteBack } from '../leads/write-back';
import { readTogether } from './handlers';
import { defineJob } from './job';

/** Writes into a CRM what is to stand in the records of an enquiry; each account is a lane. */
export const crmWriteJob = ({ begin }: Pick<WriteBack, 'begin'>) =>
  defineJob({ kind: 'crm_write', claim: 60, lanes: 4, run: readTogether(begin) });

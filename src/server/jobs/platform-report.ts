import type { makeReadReport } from '../platforms/report';
import { oneByOne } from './handlers';
import { defineJob } from './job';

/** Reads a platform's own report; each account is a lane. */
export const platformReportJob = (read: ReturnType<typeof makeReadReport>) =>
  defineJob({ kind: 'platform_report', claim: 1, lanes: 4, run: oneByOne(read) });

import type { makeTell } from '../reportbacks/tell';
import { defineJob } from './job';

/** Tells platforms what is due; each account is a lane. */
export const reportBackJob = (tell: ReturnType<typeof makeTell>) =>
  defineJob({ kind: 'report_back', claim: 1500, lanes: 8, run: tell });

import type { makePageChecks } from '../links/page-checks';
import { oneByOne } from './handlers';
import { defineJob } from './job';

/** Opens pages as a visitor would; each host is a lane. */
export const pageCheckJob = ({ run }: Pick<ReturnType<typeof makePageChecks>, 'run'>) =>
  defineJob({ kind: 'page_check', claim: 6, lanes: 4, run: oneByOne(run) });

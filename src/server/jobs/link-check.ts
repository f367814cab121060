import type { makePageChecks } from '../links/page-checks';
import { inBatches } from './handlers';
import { defineJob } from './job';

/** Asks for checks of the pages of links in use: when one is saved, and each week. */
export const linkCheckJob = ({ askForLinks }: Pick<ReturnType<typeof makePageChecks>, 'askForLinks'>) =>
  defineJob({ kind: 'link_check', claim: 300, lanes: 1, run: inBatches(askForLinks) });

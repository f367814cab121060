import type { OutcomeRule } from './schema';

/** The outcome of Fleet, for tests: reached at an assessment, worth a quarter of the lease's profit. */
export const fleetQualified: OutcomeRule = {
  code: 'FLT-QUAL',
  version: 1,
  words: 'Fleet assessed',
  reachedBy: { kind: 'stage', stage: 'Fleet assessed' },
  worth: { kind: 'expected', field: 'lease_profit', winRate: { won: 1, of: 4 } },
  countedOnceFor: 'enquiry',
  kind: 'enquiry',
  clickDays: 80,
};

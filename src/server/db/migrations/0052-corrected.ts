import type { Migration } from './index';

/** What was corrected at a platform is found without reading all that it was told. */
export const corrected: Migration[] = [
  {
    name: '0052-corrected',
    sql: 'CREATE INDEX IF NOT EXISTS by_correction ON report_backs (business_id, correction, subject_id)',
  },
];

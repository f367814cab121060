import type { Migration } from './index';

/** A trial is of the draft, or of what is live; each tab that takes part in it proves itself by a secret of its own. */
export const trialRules: Migration[] = [
  {
    name: '0031-trial-rules',
    sql: `ALTER TABLE trials ADD COLUMN IF NOT EXISTS rules VARCHAR(5) NOT NULL DEFAULT 'draft' AFTER token`,
  },
  {
    name: '0031-trial-tabs',
    sql: `CREATE TABLE IF NOT EXISTS trial_tabs (
      business_id UUID NOT NULL,
      tab CHAR(32) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      trial_id UUID NOT NULL,
      PRIMARY KEY (business_id, tab))`,
  },
];

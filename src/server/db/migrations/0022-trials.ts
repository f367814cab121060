import type { Migration } from './index';

/** Rules that are not live yet, tried in one's own browser: what it told, kept until the trial ends. */
export const trials: Migration[] = [
  {
    name: '0022-trials',
    sql: `CREATE TABLE IF NOT EXISTS trials (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      person_id UUID NOT NULL,
      token CHAR(32) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      made_at DATETIME(3) NOT NULL,
      ends_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, id),
      UNIQUE KEY by_token (business_id, token)
    )`,
  },
  {
    name: '0022-trial-hits',
    sql: `CREATE TABLE IF NOT EXISTS trial_hits (
      business_id UUID NOT NULL,
      trial_id UUID NOT NULL,
      id UUID NOT NULL,
      hit LONGTEXT NOT NULL CHECK (JSON_VALID(hit)),
      PRIMARY KEY (business_id, trial_id, id)
    )`,
  },
];

import type { Migration } from './index';

/** Tabs in which somebody points at what is to count, and what they chose. */
export const pointings: Migration[] = [
  {
    name: '0030-pointings',
    sql: `CREATE TABLE IF NOT EXISTS pointings (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      person_id UUID NOT NULL,
      token CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      tab CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
      made_at DATETIME(3) NOT NULL,
      ends_at DATETIME(3) NOT NULL,
      chosen JSON NULL,
      PRIMARY KEY (business_id, id),
      KEY by_token (business_id, token),
      KEY by_tab (business_id, tab))`,
  },
];

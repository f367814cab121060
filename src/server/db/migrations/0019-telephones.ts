import type { Migration } from './index';

/** A lead is found by telephone as by mail address: compared by hash, the number itself is not stored. */
export const telephones: Migration[] = [
  {
    name: '0019-lead-telephone',
    sql: "ALTER TABLE leads ADD COLUMN IF NOT EXISTS telephone_hash CHAR(64) NOT NULL DEFAULT ''",
  },
  {
    name: '0019-leads-by-telephone',
    sql: 'CREATE INDEX IF NOT EXISTS by_telephone ON leads (business_id, telephone_hash)',
  },
];

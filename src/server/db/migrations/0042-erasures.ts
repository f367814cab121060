import type { Migration } from './index';

/** What was erased of people, by hashes, so that nobody is brought back; and enquiries whose person was. */
export const erasures: Migration[] = [
  {
    name: '0042-erasures',
    sql: `CREATE TABLE IF NOT EXISTS erasures (
      business_id UUID NOT NULL,
      kind VARCHAR(8) NOT NULL,
      hash VARCHAR(64) NOT NULL,
      at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, kind, hash))`,
  },
  {
    name: '0042-erased-enquiries',
    sql: 'ALTER TABLE enquiries ADD COLUMN IF NOT EXISTS erased_at DATETIME(3) NULL',
  },
];

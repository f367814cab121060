import type { Migration } from './index';

/** Report-backs that a person holds, and the queue's lists. */
export const queue: Migration[] = [
  {
    name: '0044-held-by-person',
    sql: "ALTER TABLE report_backs ADD COLUMN IF NOT EXISTS stopped_by VARCHAR(80) NOT NULL DEFAULT '' AFTER reason",
  },
  {
    name: '0044-queue-by-state',
    sql: 'CREATE INDEX IF NOT EXISTS by_state ON report_backs (business_id, state, made_at)',
  },
];

import type { Migration } from './index';

/** Work of one lane, such as one account of an outside service, is done one after another; lanes side by side. */
export const workLanes: Migration[] = [
  {
    name: '0016-work-lane',
    sql: "ALTER TABLE work ADD COLUMN IF NOT EXISTS lane VARCHAR(80) NOT NULL DEFAULT ''",
  },
  {
    name: '0016-work-lanes',
    sql: 'CREATE INDEX IF NOT EXISTS lanes ON work (kind, business_id, lane, due_at)',
  },
];

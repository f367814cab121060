import type { Migration } from './index';

/** What outcomes are worth since they were told, and the corrections that platforms are told of it. */
export const corrections: Migration[] = [
  {
    name: '0045-worth-since',
    sql: `ALTER TABLE outcomes
      ADD COLUMN IF NOT EXISTS corrected_minor BIGINT NULL AFTER win_rate_of,
      ADD COLUMN IF NOT EXISTS worth_change VARCHAR(16) NOT NULL DEFAULT '' AFTER corrected_minor,
      ADD COLUMN IF NOT EXISTS change_cause VARCHAR(16) NOT NULL DEFAULT '' AFTER worth_change,
      ADD COLUMN IF NOT EXISTS changed_at DATETIME(3) NULL AFTER change_cause`,
  },
  {
    name: '0045-what-is-told',
    sql: `ALTER TABLE report_backs
      ADD COLUMN IF NOT EXISTS correction INT NOT NULL DEFAULT 0 AFTER outcome_id,
      ADD COLUMN IF NOT EXISTS tells_minor BIGINT NULL AFTER key_value,
      ADD COLUMN IF NOT EXISTS told_minor BIGINT NULL AFTER tells_minor`,
  },
  {
    name: '0045-corrected-each',
    sql: `ALTER TABLE report_backs
      ADD UNIQUE INDEX IF NOT EXISTS told_once_each (business_id, outcome_id, account, correction),
      DROP INDEX IF EXISTS told_once`,
  },
  {
    name: '0045-worth-sent',
    sql: 'ALTER TABLE attempts ADD COLUMN IF NOT EXISTS worth_minor BIGINT NULL AFTER status',
  },
];

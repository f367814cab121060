import type { Migration } from './index';

/** Outcomes of enquiries and orders alike, with what shows them; report-backs by the account that a rule names. */
export const outcomes: Migration[] = [
  {
    name: '0024-outcome-subjects',
    sql: `ALTER TABLE outcomes
      ADD COLUMN IF NOT EXISTS subject_kind VARCHAR(10) NOT NULL DEFAULT 'enquiry' AFTER dedupe_key,
      ADD COLUMN IF NOT EXISTS subject_id UUID NULL AFTER subject_kind,
      ADD COLUMN IF NOT EXISTS evidence JSON NOT NULL DEFAULT '{}' AFTER happened_at,
      ADD COLUMN IF NOT EXISTS win_rate_won INT UNSIGNED NULL AFTER win_rate,
      ADD COLUMN IF NOT EXISTS win_rate_of INT UNSIGNED NULL AFTER win_rate_won`,
  },
  {
    name: '0024-outcome-subjects-filled',
    sql: `UPDATE outcomes SET subject_id = enquiry_id,
        evidence = JSON_MERGE_PATCH(
          JSON_OBJECT('kind', 'stage', 'stage', stage), IF(skipped, '{"skipped":true}', '{"skipped":false}')),
        win_rate_won = SUBSTRING_INDEX(win_rate, ' of ', 1), win_rate_of = SUBSTRING_INDEX(win_rate, ' of ', -1)
      WHERE subject_id IS NULL`,
  },
  {
    name: '0024-outcome-without-enquiry',
    sql: `ALTER TABLE outcomes MODIFY subject_id UUID NOT NULL, DROP INDEX IF EXISTS by_enquiry,
      DROP COLUMN IF EXISTS enquiry_id, DROP COLUMN IF EXISTS stage, DROP COLUMN IF EXISTS skipped,
      DROP COLUMN IF EXISTS win_rate`,
  },
  {
    name: '0024-outcome-by-subject',
    sql: 'CREATE INDEX IF NOT EXISTS by_subject ON outcomes (business_id, subject_id)',
  },
  {
    name: '0024-report-back-keys',
    sql: `ALTER TABLE report_backs
      ADD COLUMN IF NOT EXISTS subject_kind VARCHAR(10) NOT NULL DEFAULT 'enquiry' AFTER outcome_id,
      ADD COLUMN IF NOT EXISTS subject_id UUID NULL AFTER subject_kind,
      ADD COLUMN IF NOT EXISTS account VARCHAR(40) NOT NULL DEFAULT '' AFTER account_id,
      ADD COLUMN IF NOT EXISTS told_as VARCHAR(40) NOT NULL DEFAULT '' AFTER platform,
      ADD COLUMN IF NOT EXISTS key_kind VARCHAR(20) NOT NULL DEFAULT 'click_id' AFTER reason,
      ADD COLUMN IF NOT EXISTS key_value VARCHAR(300) NOT NULL DEFAULT '' AFTER key_kind`,
  },
  {
    name: '0024-report-back-keys-filled',
    sql: `UPDATE report_backs r LEFT JOIN accounts a ON a.business_id = r.business_id AND a.id = r.account_id
        LEFT JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id
      SET r.subject_id = r.enquiry_id, r.account = COALESCE(a.\`key\`, r.platform), r.key_value = r.click_id,
        r.told_as = COALESCE(o.code, '')
      WHERE r.subject_id IS NULL`,
  },
  {
    name: '0024-report-back-once',
    sql: `ALTER TABLE report_backs MODIFY subject_id UUID NOT NULL, DROP INDEX IF EXISTS once,
      DROP INDEX IF EXISTS by_enquiry, DROP COLUMN IF EXISTS enquiry_id, DROP COLUMN IF EXISTS click_id`,
  },
  {
    name: '0024-report-back-by-account-key',
    sql: 'CREATE UNIQUE INDEX IF NOT EXISTS told_once ON report_backs (business_id, outcome_id, account)',
  },
  {
    name: '0024-report-back-by-subject',
    sql: 'CREATE INDEX IF NOT EXISTS by_subject ON report_backs (business_id, subject_id)',
  },
];

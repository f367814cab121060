import type { Migration } from './index';

/** Enquiries by the touches that are credited with them, summed up by day. */
export const leadDays: Migration[] = [
  {
    name: '0058-lead-days',
    sql: `CREATE TABLE IF NOT EXISTS lead_days (
      business_id UUID NOT NULL,
      zone VARCHAR(40) NOT NULL,
      day DATE NOT NULL,
      n INT UNSIGNED NOT NULL,
      credit VARCHAR(10) NOT NULL,
      source VARCHAR(200) NOT NULL,
      medium VARCHAR(200) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      content VARCHAR(200) NOT NULL,
      term VARCHAR(200) NOT NULL,
      platform VARCHAR(40) NOT NULL,
      referrer_host VARCHAR(253) NOT NULL,
      landing VARCHAR(300) NOT NULL,
      is_unknown BOOLEAN NOT NULL,
      thousandths INT UNSIGNED NOT NULL,
      PRIMARY KEY (business_id, zone, day, n))`,
  },
  { name: '0058-sum-up-again', sql: 'DELETE FROM roll_up_zones' },
  {
    name: '0058-sum-up-soon',
    sql: `INSERT INTO work (business_id, kind, subject, due_at, marks, attempts)
      SELECT id, 'roll_up', id, UTC_TIMESTAMP(3), 1, 0 FROM businesses ON DUPLICATE KEY UPDATE marks = work.marks + 1`,
  },
];

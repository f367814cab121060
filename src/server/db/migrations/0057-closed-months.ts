import type { Migration } from './index';

/** Months that are closed, with the figures as they were then. */
export const closedMonths: Migration[] = [
  {
    name: '0057-closed-months',
    sql: `CREATE TABLE IF NOT EXISTS closed_months (
      business_id UUID NOT NULL,
      month CHAR(7) NOT NULL,
      figures JSON NOT NULL,
      closed_by VARCHAR(200) NOT NULL,
      closed_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, month))`,
  },
  // Tessaloop reports by now; an account that was connected before is read too.
  {
    name: '0057-read-tessaloop',
    sql: `INSERT INTO work (business_id, kind, subject, lane, due_at, marks, attempts)
      SELECT business_id, 'platform_report', id, id, UTC_TIMESTAMP(3), 1, 0 FROM accounts
      WHERE kind = 'tessaloop' AND retired_at IS NULL ON DUPLICATE KEY UPDATE marks = work.marks + 1`,
  },
];

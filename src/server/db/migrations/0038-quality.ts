import type { Migration } from './index';

/** How far enquiries were answered: as somebody said, and as it follows from that and from the CRM. */
export const quality: Migration[] = [
  {
    name: '0038-quality',
    sql: `ALTER TABLE enquiries
      ADD COLUMN IF NOT EXISTS quality VARCHAR(20) NOT NULL DEFAULT 'unanswered',
      ADD COLUMN IF NOT EXISTS quality_reason VARCHAR(80) NOT NULL DEFAULT '',
      ADD COLUMN IF NOT EXISTS answered_at DATETIME(3) NULL,
      ADD COLUMN IF NOT EXISTS answered_by VARCHAR(120) NOT NULL DEFAULT '',
      ADD COLUMN IF NOT EXISTS said_quality VARCHAR(20) NOT NULL DEFAULT '',
      ADD COLUMN IF NOT EXISTS said_reason VARCHAR(80) NOT NULL DEFAULT '',
      ADD COLUMN IF NOT EXISTS said_by VARCHAR(120) NOT NULL DEFAULT '',
      ADD COLUMN IF NOT EXISTS said_at DATETIME(3) NULL,
      ADD COLUMN IF NOT EXISTS said_answered_at DATETIME(3) NULL,
      ADD COLUMN IF NOT EXISTS said_answered_by VARCHAR(120) NOT NULL DEFAULT '',
      ADD KEY IF NOT EXISTS by_quality (business_id, marked, quality, sent_at)`,
  },
  {
    name: '0038-working-hours',
    sql: `CREATE TABLE IF NOT EXISTS working_hours (
      business_id UUID NOT NULL,
      hours JSON NOT NULL,
      changed_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id))`,
  },
  {
    name: '0038-follow-all',
    sql: `INSERT INTO work (business_id, kind, subject, due_at, marks, attempts)
      SELECT business_id, 'enquiry', id, UTC_TIMESTAMP(3), 1, 0 FROM enquiries ON DUPLICATE KEY UPDATE marks = work.marks + 1`,
  },
];

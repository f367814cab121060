import type { Migration } from './index';

/** What results are read from: outcomes of some days by what they are, and visits summed up by what brought them. */
export const results: Migration[] = [
  {
    name: '0054-outcomes-by-code',
    sql: 'CREATE INDEX IF NOT EXISTS by_code ON outcomes (business_id, code, happened_at)',
  },
  {
    name: '0054-visits-before',
    sql: `ALTER TABLE visits ADD COLUMN IF NOT EXISTS previous_on DATE NULL,
      ADD COLUMN IF NOT EXISTS marked VARCHAR(20) NOT NULL DEFAULT ''`,
  },
  {
    name: '0054-visit-days',
    sql: `CREATE TABLE IF NOT EXISTS visit_days (
      business_id UUID NOT NULL,
      zone VARCHAR(40) NOT NULL,
      day DATE NOT NULL,
      n INT UNSIGNED NOT NULL,
      source VARCHAR(200) NOT NULL,
      medium VARCHAR(200) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      content VARCHAR(200) NOT NULL,
      term VARCHAR(200) NOT NULL,
      platform VARCHAR(40) NOT NULL,
      referrer_host VARCHAR(253) NOT NULL,
      landing VARCHAR(300) NOT NULL,
      direct BOOLEAN NOT NULL,
      previous_on DATE NULL,
      visits INT UNSIGNED NOT NULL,
      PRIMARY KEY (business_id, zone, day, n))`,
  },
  {
    name: '0054-figure-views',
    sql: `CREATE TABLE IF NOT EXISTS figure_views (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      name VARCHAR(60) NOT NULL,
      query VARCHAR(2000) NOT NULL,
      made_by VARCHAR(200) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      retired_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id))`,
  },
  {
    name: '0054-day-notes',
    sql: `CREATE TABLE IF NOT EXISTS day_notes (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      day DATE NOT NULL,
      text VARCHAR(200) NOT NULL,
      made_by VARCHAR(200) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      retired_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id),
      KEY by_day (business_id, day))`,
  },
  { name: '0054-sum-up-again', sql: 'DELETE FROM roll_up_zones' },
  {
    // What was derived before says neither whose a visit is nor what was before it.
    name: '0054-visitors-again',
    sql: `INSERT INTO work (business_id, kind, subject, due_at, marks, attempts)
      SELECT DISTINCT business_id, 'visitor', visitor_id, UTC_TIMESTAMP(3), 1, 0 FROM visits
      ON DUPLICATE KEY UPDATE marks = work.marks + 1`,
  },
];

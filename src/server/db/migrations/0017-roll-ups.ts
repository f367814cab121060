import type { Migration } from './index';

const day = `business_id UUID NOT NULL,
      zone VARCHAR(40) NOT NULL,
      day DATE NOT NULL,
      n INT UNSIGNED NOT NULL`;

/**
 * What pages count over weeks, added up by day. Days are of a time zone: the business's, and of accounts that report in
 * one of their own. `n` only numbers a day's rows.
 */
export const rollUps: Migration[] = [
  {
    name: '0017-roll-up-marks',
    sql: `CREATE TABLE IF NOT EXISTS roll_up_marks (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      hour DATETIME NOT NULL,
      PRIMARY KEY (business_id, id))`,
  },
  {
    name: '0017-roll-up-zones',
    sql: `CREATE TABLE IF NOT EXISTS roll_up_zones (
      business_id UUID NOT NULL,
      zone VARCHAR(40) NOT NULL,
      built_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, zone))`,
  },
  {
    name: '0017-strand-days',
    sql: `CREATE TABLE IF NOT EXISTS strand_days (
      ${day},
      kind VARCHAR(10) NOT NULL,
      platform VARCHAR(40) NOT NULL,
      source VARCHAR(200) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      utm_id VARCHAR(200) NOT NULL,
      marked VARCHAR(20) NOT NULL,
      reached TINYINT UNSIGNED NOT NULL,
      state VARCHAR(10) NULL,
      reason VARCHAR(500) NULL,
      strands INT UNSIGNED NOT NULL,
      PRIMARY KEY (business_id, zone, day, n))`,
  },
  {
    name: '0017-page-days',
    sql: `CREATE TABLE IF NOT EXISTS page_days (
      ${day},
      page VARCHAR(200) NOT NULL,
      arrivals INT UNSIGNED NOT NULL,
      last_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, zone, day, n),
      KEY by_page (business_id, page, day))`,
  },
  {
    name: '0017-tag-days',
    sql: `CREATE TABLE IF NOT EXISTS tag_days (
      ${day},
      tag VARCHAR(40) NOT NULL,
      value VARCHAR(200) NOT NULL,
      host VARCHAR(253) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      arrivals INT UNSIGNED NOT NULL,
      first_at DATETIME(3) NOT NULL,
      last_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, zone, day, n),
      KEY by_value (business_id, tag, value, day))`,
  },
  {
    name: '0017-touch-days',
    sql: `CREATE TABLE IF NOT EXISTS touch_days (
      ${day},
      landing VARCHAR(300) NOT NULL,
      source VARCHAR(200) NOT NULL,
      medium VARCHAR(200) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      content VARCHAR(200) NOT NULL,
      term VARCHAR(200) NOT NULL,
      referrer_host VARCHAR(253) NOT NULL,
      untagged BOOLEAN NOT NULL,
      touches INT UNSIGNED NOT NULL,
      first_at DATETIME(3) NOT NULL,
      last_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, zone, day, n),
      KEY by_landing (business_id, landing))`,
  },
  {
    name: '0017-finding-days',
    sql: `CREATE TABLE IF NOT EXISTS finding_days (
      ${day},
      kind VARCHAR(20) NOT NULL,
      name VARCHAR(60) NOT NULL,
      page VARCHAR(200) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      detail VARCHAR(60) NOT NULL,
      times INT UNSIGNED NOT NULL,
      last_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, zone, day, n))`,
  },
  {
    name: '0017-visits-gap',
    sql: 'ALTER TABLE visits ADD COLUMN IF NOT EXISTS gap_hours INT UNSIGNED NULL',
  },
  {
    name: '0017-visits-gaps',
    sql: `UPDATE visits JOIN (
        SELECT business_id, id, TIMESTAMPDIFF(HOUR, LAG(ended_at) OVER (
          PARTITION BY business_id, visitor_id ORDER BY started_at), started_at) AS hours FROM visits) AS gaps
        ON gaps.business_id = visits.business_id AND gaps.id = visits.id
      SET gap_hours = hours WHERE hours >= 0`,
  },
  {
    name: '0017-return-days',
    sql: `CREATE TABLE IF NOT EXISTS return_days (
      ${day},
      browser VARCHAR(20) NOT NULL,
      soon INT UNSIGNED NOT NULL,
      later INT UNSIGNED NOT NULL,
      PRIMARY KEY (business_id, zone, day, n))`,
  },
  {
    name: '0017-hits-by-time',
    sql: 'CREATE INDEX IF NOT EXISTS by_time ON hits (business_id, at, kind, page)',
  },
  {
    name: '0017-touches-by-time',
    sql: 'CREATE INDEX IF NOT EXISTS by_time ON touches (business_id, at)',
  },
  {
    name: '0017-touch-tags-by-time',
    sql: 'CREATE INDEX IF NOT EXISTS by_time ON touch_tags (business_id, at)',
  },
  {
    name: '0017-findings-by-time',
    sql: 'CREATE INDEX IF NOT EXISTS by_time ON findings (business_id, at)',
  },
  {
    name: '0017-roll-up-all',
    sql: `INSERT INTO work (business_id, kind, subject, due_at, marks, attempts)
      SELECT id, 'roll_up', id, UTC_TIMESTAMP(3), 1, 0 FROM businesses ON DUPLICATE KEY UPDATE marks = work.marks`,
  },
];

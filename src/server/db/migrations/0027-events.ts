import type { Migration } from './index';

/** Events that went off on pages. */
export const events: Migration[] = [
  {
    name: '0027-events',
    sql: `CREATE TABLE IF NOT EXISTS events (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      event_id VARCHAR(110) NOT NULL,
      name VARCHAR(40) NOT NULL,
      visitor_id UUID NOT NULL,
      visit_id UUID NOT NULL,
      touch_id UUID NULL,
      hit_id UUID NOT NULL,
      page VARCHAR(4000) NOT NULL,
      at DATETIME(3) NOT NULL,
      cue TINYINT UNSIGNED NOT NULL,
      readings JSON NOT NULL,
      marked VARCHAR(20) NOT NULL,
      consent JSON NULL,
      release_number INT UNSIGNED NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_name (business_id, name, at, marked),
      KEY by_visitor (business_id, visitor_id))`,
  },
];

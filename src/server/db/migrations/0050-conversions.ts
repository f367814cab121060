import type { Migration } from './index';

/** What people did on the website, or a file says they did, that outcomes are reached by. */
export const conversions: Migration[] = [
  {
    name: '0050-conversions',
    sql: `CREATE TABLE IF NOT EXISTS conversions (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      kind VARCHAR(10) NOT NULL,
      name VARCHAR(300) NOT NULL,
      fields JSON NOT NULL,
      amounts JSON NOT NULL,
      visitor_id UUID NOT NULL,
      hit_id UUID NOT NULL,
      page VARCHAR(4000) NOT NULL,
      at DATETIME(3) NOT NULL,
      visit_number INT UNSIGNED NOT NULL,
      strands JSON NOT NULL,
      last_paid UUID NULL,
      marked VARCHAR(20) NOT NULL,
      consent JSON NULL,
      release_number INT UNSIGNED NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_visitor (business_id, visitor_id),
      KEY by_time (business_id, at))`,
  },
];

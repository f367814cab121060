import type { Migration } from './index';

/** Orders that pages said. */
export const orders: Migration[] = [
  {
    name: '0025-orders',
    sql: `CREATE TABLE IF NOT EXISTS orders (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      number VARCHAR(60) NOT NULL,
      visitor_id UUID NOT NULL,
      hit_id UUID NOT NULL,
      page VARCHAR(4000) NOT NULL,
      at DATETIME(3) NOT NULL,
      visit_number INT UNSIGNED NOT NULL,
      currency VARCHAR(3) NOT NULL,
      amounts JSON NOT NULL,
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

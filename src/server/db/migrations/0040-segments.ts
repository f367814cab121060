import type { Migration } from './index';

/** Sets of leads by conditions, and what finds their enquiries by touch fast. */
export const segments: Migration[] = [
  {
    name: '0040-segments',
    sql: `CREATE TABLE IF NOT EXISTS segments (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      name VARCHAR(80) NOT NULL,
      means JSON NOT NULL,
      is_shared BOOLEAN NOT NULL,
      owner_id UUID NOT NULL,
      owner_name VARCHAR(120) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      changed_at DATETIME(3) NOT NULL,
      retired_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id),
      KEY by_owner (business_id, owner_id))`,
  },
  {
    name: '0040-touches-in-order',
    sql: `ALTER TABLE touches DROP KEY IF EXISTS by_visitor,
      ADD KEY IF NOT EXISTS by_visitor_in_order (business_id, visitor_id, at)`,
  },
];

import type { Migration } from './index';

/** Pretend visitors that are walked before each release. */
export const rehearsals: Migration[] = [
  {
    name: '0032-rehearsals',
    sql: `CREATE TABLE IF NOT EXISTS rehearsals (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      name VARCHAR(80) NOT NULL,
      ${'`lines`'} JSON NOT NULL,
      traits JSON NOT NULL,
      expected JSON NOT NULL,
      changed_by UUID NOT NULL,
      changed_at DATETIME(3) NOT NULL,
      retired_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id))`,
  },
];

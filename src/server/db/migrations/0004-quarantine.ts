import type { Migration } from './index';

/** Hits that were answered and that the database refuses, with the reason. */
export const quarantine: Migration[] = [
  {
    name: '0004-quarantine',
    sql: `CREATE TABLE IF NOT EXISTS quarantine (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      received_at DATETIME(3) NOT NULL,
      reason VARCHAR(500) NOT NULL,
      body LONGTEXT NOT NULL,
      PRIMARY KEY (business_id, id))`,
  },
];

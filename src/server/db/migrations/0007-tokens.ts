import type { Migration } from './index';

/** Tokens of the API, and the orders in which the API lists outcomes and report-backs. */
export const tokens: Migration[] = [
  {
    name: '0007-tokens',
    sql: `CREATE TABLE IF NOT EXISTS tokens (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      person_id UUID NOT NULL,
      name VARCHAR(80) NOT NULL,
      begins VARCHAR(12) NOT NULL,
      token_hash CHAR(64) NOT NULL,
      may_change BOOLEAN NOT NULL,
      sees_people BOOLEAN NOT NULL,
      sees_money BOOLEAN NOT NULL,
      made_at DATETIME(3) NOT NULL,
      used_at DATETIME(3) NULL,
      expires_at DATETIME(3) NOT NULL,
      revoked_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id),
      UNIQUE KEY by_token (business_id, token_hash))`,
  },
  {
    name: '0007-outcomes-by-time',
    sql: 'ALTER TABLE outcomes ADD KEY IF NOT EXISTS by_time (business_id, counted_at, id)',
  },
  {
    name: '0007-report-backs-by-time',
    sql: 'ALTER TABLE report_backs ADD KEY IF NOT EXISTS by_time (business_id, made_at, id)',
  },
];

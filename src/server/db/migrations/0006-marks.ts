import type { Migration } from './index';

/** Hits of bots, and what is marked as no customer because of them: kept, shown apart, never counted, never told. */
export const marks: Migration[] = [
  { name: '0006-hits-bot', sql: 'ALTER TABLE hits ADD COLUMN IF NOT EXISTS bot BOOLEAN NOT NULL DEFAULT FALSE' },
  {
    name: '0006-strands-marked',
    sql: "ALTER TABLE strands ADD COLUMN IF NOT EXISTS marked VARCHAR(20) NOT NULL DEFAULT ''",
  },
  {
    name: '0006-enquiries-marked',
    sql: "ALTER TABLE enquiries ADD COLUMN IF NOT EXISTS marked VARCHAR(20) NOT NULL DEFAULT ''",
  },
];

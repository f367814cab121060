import type { Migration } from './index';

/** Quarantine holds work that could never be done too, such as a visitor, beside hits that the database refused. */
export const quarantineKinds: Migration[] = [
  {
    name: '0013-quarantine-kind',
    sql: "ALTER TABLE quarantine ADD COLUMN IF NOT EXISTS kind VARCHAR(20) NOT NULL DEFAULT 'hit'",
  },
];

import type { Migration } from './index';

/** Events by when they went off, whatever they are; funnels are kept under names as figures are. */
export const justIn: Migration[] = [
  { name: '0055-events-by-time', sql: 'CREATE INDEX IF NOT EXISTS by_time ON events (business_id, at)' },
  {
    name: '0055-views-by-kind',
    sql: "ALTER TABLE figure_views ADD COLUMN IF NOT EXISTS kind VARCHAR(20) NOT NULL DEFAULT 'figures' AFTER id",
  },
];

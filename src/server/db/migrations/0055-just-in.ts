import type { Migration } from './index';

/** Events by when they went off, whatever they are. */
export const justIn: Migration[] = [
  { name: '0055-events-by-time', sql: 'CREATE INDEX IF NOT EXISTS by_time ON events (business_id, at)' },
];

import type { Migration } from './index';

/**
 * Pages that browsers opened are read by time, for funnels: with the browser in the index, none of the hits themselves is
 * read.
 */
export const hitsByTime: Migration[] = [
  {
    name: '0059-hits-by-time',
    sql: `ALTER TABLE hits DROP INDEX IF EXISTS by_time,
      ADD INDEX by_time (business_id, at, kind, page, visitor_id)`,
  },
];

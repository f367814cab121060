import type { Migration } from './index';

/** Which touch of a browser is its first and its last: segments ask for them, and need not look it up for each touch. */
export const touchEnds: Migration[] = [
  {
    name: '0043-touch-ends',
    sql: `ALTER TABLE touches ADD COLUMN IF NOT EXISTS is_first BOOLEAN NOT NULL DEFAULT TRUE,
      ADD COLUMN IF NOT EXISTS is_last BOOLEAN NOT NULL DEFAULT TRUE`,
  },
  {
    name: '0043-touch-ends-so-far',
    sql: `UPDATE touches t JOIN (
        SELECT business_id, id,
          ROW_NUMBER() OVER (PARTITION BY business_id, visitor_id ORDER BY at, id) AS before_it,
          ROW_NUMBER() OVER (PARTITION BY business_id, visitor_id ORDER BY at DESC, id DESC) AS after_it
        FROM touches) n ON n.business_id = t.business_id AND n.id = t.id
      SET t.is_first = n.before_it = 1, t.is_last = n.after_it = 1`,
  },
];

import type { Migration } from './index';

/** The pages of links that are in use are checked each week; those made before are due at once. */
export const linkChecks: Migration[] = [
  {
    name: '0021-link-checks',
    sql: `INSERT INTO work (business_id, kind, subject, lane, due_at, marks, attempts)
          SELECT business_id, 'link_check', id, '', UTC_TIMESTAMP(3), 1, 0 FROM links WHERE retired_at IS NULL
          ON DUPLICATE KEY UPDATE work.marks = work.marks`,
  },
];

import type { Migration } from './index';

/**
 * Who made a release, and which one it takes back. What a change was made on top of is sent along with it and compared
 * at once, so the draft no longer keeps the release that was live then.
 */
export const releaseHistory: Migration[] = [
  {
    name: '0015-release-maker',
    sql: 'ALTER TABLE releases ADD COLUMN IF NOT EXISTS made_by UUID NULL, ADD COLUMN IF NOT EXISTS takes_back INT UNSIGNED NULL',
  },
  { name: '0015-draft-base', sql: 'ALTER TABLE draft_changes DROP COLUMN IF EXISTS base' },
];

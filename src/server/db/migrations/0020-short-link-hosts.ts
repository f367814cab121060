import type { Migration } from './index';

/** Under which of the business's own hosts a short link is handed out; '' where it is the usual one. */
export const shortLinkHosts: Migration[] = [
  {
    name: '0020-short-link-hosts',
    sql: `ALTER TABLE short_links ADD COLUMN IF NOT EXISTS host VARCHAR(255) NOT NULL DEFAULT '' AFTER path`,
  },
];

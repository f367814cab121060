import type { Migration } from './index';

/** Who was on a host, for a list of hosts that is applied to everything recorded: without it every hit was read. */
export const hostsOfHits: Migration[] = [
  { name: '0018-hits-by-host', sql: 'CREATE INDEX IF NOT EXISTS by_host ON hits (business_id, host, visitor_id)' },
];

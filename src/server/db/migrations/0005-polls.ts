import type { Migration } from './index';

/** Up to when each CRM account was asked for its changes. */
export const polls: Migration[] = [
  {
    name: '0005-polls',
    sql: `CREATE TABLE IF NOT EXISTS polls (
      business_id UUID NOT NULL,
      account_id UUID NOT NULL,
      polled_to DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, account_id))`,
  },
];

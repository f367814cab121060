import type { Migration } from './index';

/** Events told to destinations, and what became of each. */
export const eventTellings: Migration[] = [
  {
    name: '0028-event-tellings',
    sql: `CREATE TABLE IF NOT EXISTS event_tellings (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      event_row_id UUID NOT NULL,
      event VARCHAR(40) NOT NULL,
      account VARCHAR(80) NOT NULL,
      state VARCHAR(10) NOT NULL,
      reason VARCHAR(300) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      told_at DATETIME(3) NULL,
      tries INT UNSIGNED NOT NULL,
      sent JSON NULL,
      PRIMARY KEY (business_id, id),
      KEY by_event (business_id, event, account, state))`,
  },
];

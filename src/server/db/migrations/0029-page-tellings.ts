import type { Migration } from './index';

/** Events that pages tell, beside those that the server tells; the click that each is told by, and when it happened. */
export const pageTellings: Migration[] = [
  {
    name: '0029-page-tellings',
    sql: `ALTER TABLE event_tellings
      ADD COLUMN IF NOT EXISTS told_by VARCHAR(6) NOT NULL DEFAULT 'server' AFTER account,
      ADD COLUMN IF NOT EXISTS click_id VARCHAR(300) NOT NULL DEFAULT '' AFTER told_by,
      ADD COLUMN IF NOT EXISTS happened_at DATETIME(3) NOT NULL DEFAULT '1970-01-01' AFTER reason,
      ADD KEY IF NOT EXISTS by_time (business_id, happened_at),
      ADD KEY IF NOT EXISTS by_told (business_id, event, account, told_by, state, told_at),
      DROP KEY IF EXISTS by_event`,
  },
  {
    name: '0029-when-tellings-happened',
    sql: `UPDATE event_tellings JOIN events
      ON events.business_id = event_tellings.business_id AND events.id = event_tellings.event_row_id
      SET event_tellings.happened_at = events.at WHERE event_tellings.happened_at = '1970-01-01'`,
  },
];

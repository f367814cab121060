import type { Migration } from './index';

/** Months that are closed, with the figures as they were then. */
export const closedMonths: Migration[] = [
  {
    name: '0057-closed-months',
    sql: `CREATE TABLE IF NOT EXISTS closed_months (
      business_id UUID NOT NULL,
      month CHAR(7) NOT NULL,
      figures JSON NOT NULL,
      closed_by VARCHAR(200) NOT NULL,
      closed_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, month))`,
  },
];

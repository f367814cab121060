import type { Migration } from './index';

/** Orders that are probably the same as another, and who let them go all the same. */
export const sameOrders: Migration[] = [
  {
    name: '0049-same-orders',
    sql: "ALTER TABLE orders ADD COLUMN IF NOT EXISTS same_as VARCHAR(60) NOT NULL DEFAULT '' AFTER amounts",
  },
  {
    name: '0049-let-go',
    sql: "ALTER TABLE report_backs ADD COLUMN IF NOT EXISTS let_go_by VARCHAR(80) NOT NULL DEFAULT '' AFTER stopped_by",
  },
];

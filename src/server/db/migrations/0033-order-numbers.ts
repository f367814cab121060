import type { Migration } from './index';

/** Orders are looked for by their numbers. */
export const orderNumbers: Migration[] = [
  {
    name: '0033-order-numbers',
    sql: 'ALTER TABLE orders ADD KEY IF NOT EXISTS by_number (business_id, number)',
  },
];

import type { Migration } from './index';

/** Results read outcomes of some days, by what they are. */
export const results: Migration[] = [
  {
    name: '0054-outcomes-by-code',
    sql: 'CREATE INDEX IF NOT EXISTS by_code ON outcomes (business_id, code, happened_at)',
  },
];

import type { Migration } from './index';

/** What arrivals show of faults in links and pages. */
export const capture: Migration[] = [
  {
    name: '0010-findings',
    sql: `CREATE TABLE IF NOT EXISTS findings (
      business_id UUID NOT NULL,
      hit_id UUID NOT NULL,
      kind VARCHAR(20) NOT NULL,
      name VARCHAR(60) NOT NULL,
      visitor_id UUID NOT NULL,
      at DATETIME(3) NOT NULL,
      page VARCHAR(200) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      detail VARCHAR(60) NOT NULL,
      PRIMARY KEY (business_id, hit_id, kind, name),
      KEY by_visitor (business_id, visitor_id),
      KEY by_kind (business_id, kind, at))`,
  },
];

import type { Migration } from './index';

/** What arrivals show of faults in links and pages, and every form that pages told of, as it stood there last. */
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
  {
    name: '0010-forms-seen',
    sql: `CREATE TABLE IF NOT EXISTS forms_seen (
      business_id UUID NOT NULL,
      form VARCHAR(120) NOT NULL,
      page VARCHAR(200) NOT NULL,
      fields JSON NOT NULL,
      fills JSON NOT NULL,
      release_number INT UNSIGNED NOT NULL,
      first_at DATETIME(3) NOT NULL,
      last_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, form, page))`,
  },
];

import type { Migration } from './index';

/** What is written into a CRM's records: waiting, written, refused; with what was there before. */
export const crmWrites: Migration[] = [
  {
    name: '0035-crm-writes',
    sql: `CREATE TABLE IF NOT EXISTS crm_writes (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      account_id UUID NOT NULL,
      enquiry_id UUID NOT NULL,
      deal_id UUID NOT NULL,
      number VARCHAR(60) NOT NULL,
      cause VARCHAR(10) NOT NULL,
      fields JSON NOT NULL,
      found JSON NULL,
      state VARCHAR(10) NOT NULL,
      answer VARCHAR(500) NOT NULL,
      by_name VARCHAR(120) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      written_at DATETIME(3) NULL,
      release_number INT UNSIGNED NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_enquiry (business_id, enquiry_id),
      KEY by_deal (business_id, deal_id),
      KEY by_state (business_id, state, made_at))`,
  },
  {
    name: '0035-crm-write-runs',
    sql: `CREATE TABLE IF NOT EXISTS crm_write_runs (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      rules JSON NOT NULL,
      by_name VARCHAR(120) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, id))`,
  },
];

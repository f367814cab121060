import type { Migration } from './index';

/** Leads that platforms' own forms took, the accounts they are fetched from, and by which way an enquiry came in. */
export const platformLeads: Migration[] = [
  {
    name: '0037-enquiry-ways',
    sql: "ALTER TABLE enquiries ADD COLUMN IF NOT EXISTS way_in VARCHAR(20) NOT NULL DEFAULT 'form'",
  },
  {
    name: '0037-lead-pulls',
    sql: `CREATE TABLE IF NOT EXISTS lead_pulls (
      business_id UUID NOT NULL,
      account_id UUID NOT NULL,
      takes_from DATETIME(3) NULL,
      medium VARCHAR(80) NOT NULL,
      hands_over BOOLEAN NOT NULL,
      agreed BOOLEAN NOT NULL,
      pulled_to VARCHAR(60) NOT NULL,
      pulled_at DATETIME(3) NULL,
      by_name VARCHAR(120) NOT NULL,
      begun_at DATETIME(3) NOT NULL,
      ended_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, account_id))`,
  },
  {
    name: '0037-platform-leads',
    sql: `CREATE TABLE IF NOT EXISTS platform_leads (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      account_id UUID NOT NULL,
      number VARCHAR(60) NOT NULL,
      lead_id UUID NOT NULL,
      enquiry_id UUID NOT NULL,
      form VARCHAR(120) NOT NULL,
      ad VARCHAR(200) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      place VARCHAR(60) NOT NULL,
      sent_at DATETIME(3) NOT NULL,
      fetched_at DATETIME(3) NULL,
      is_test BOOLEAN NOT NULL,
      answers VARBINARY(4000) NULL,
      handed VARCHAR(10) NOT NULL,
      asked_at DATETIME(3) NULL,
      answer VARCHAR(500) NOT NULL,
      deal VARCHAR(60) NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_time (business_id, sent_at),
      KEY by_lead (business_id, lead_id),
      KEY by_enquiry (business_id, enquiry_id),
      KEY by_handed (business_id, handed, sent_at))`,
  },
];

import type { Migration } from './index';

/** Sign-ups on the website, and the subscriptions that postbacks name. */
export const subscriptions: Migration[] = [
  {
    name: '0048-sign-ups',
    sql: `CREATE TABLE IF NOT EXISTS sign_ups (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      lead_token VARCHAR(40) NOT NULL,
      visitor_id UUID NOT NULL,
      hit_id UUID NOT NULL,
      form VARCHAR(120) NOT NULL,
      page VARCHAR(4000) NOT NULL,
      at DATETIME(3) NOT NULL,
      visit_number INT UNSIGNED NOT NULL,
      strands JSON NOT NULL,
      last_paid UUID NULL,
      marked VARCHAR(20) NOT NULL,
      consent JSON NULL,
      release_number INT UNSIGNED NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_visitor (business_id, visitor_id))`,
  },
  {
    name: '0048-subscriptions',
    sql: `CREATE TABLE IF NOT EXISTS subscriptions (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      number VARCHAR(80) NOT NULL,
      lead_token VARCHAR(40) NOT NULL,
      click_id VARCHAR(300) NOT NULL,
      first_at DATETIME(3) NOT NULL,
      strands JSON NOT NULL,
      marked VARCHAR(20) NOT NULL,
      paid_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id),
      KEY by_number (business_id, number),
      KEY by_lead_token (business_id, lead_token),
      KEY by_time (business_id, first_at))`,
  },
  {
    name: '0048-outcome-subjects',
    sql: "ALTER TABLE outcomes MODIFY subject_kind VARCHAR(14) NOT NULL DEFAULT 'enquiry'",
  },
  {
    name: '0048-report-back-subjects',
    sql: "ALTER TABLE report_backs MODIFY subject_kind VARCHAR(14) NOT NULL DEFAULT 'enquiry'",
  },
  { name: '0048-strand-kinds', sql: 'ALTER TABLE strands MODIFY kind VARCHAR(14) NOT NULL' },
  { name: '0048-strand-day-kinds', sql: 'ALTER TABLE strand_days MODIFY kind VARCHAR(14) NOT NULL' },
];

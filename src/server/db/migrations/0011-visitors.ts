import type { Migration } from './index';

/**
 * Which website is the first one. What is known of visitors beyond their click: the page and browser of each hit, whether it came from one of the
 * business's own networks, what they agreed to; landings counted without any identifier; and which entries of the
 * no-customer list somebody applied to the past.
 */
export const visitors: Migration[] = [
  { name: '0011-websites-place', sql: 'ALTER TABLE websites ADD COLUMN IF NOT EXISTS place INT NOT NULL DEFAULT 0' },
  { name: '0011-hits-page', sql: "ALTER TABLE hits ADD COLUMN IF NOT EXISTS page VARCHAR(200) NOT NULL DEFAULT ''" },
  {
    name: '0011-hits-network',
    sql: 'ALTER TABLE hits ADD COLUMN IF NOT EXISTS own_network BOOLEAN NOT NULL DEFAULT FALSE',
  },
  {
    name: '0011-hits-browser',
    sql: "ALTER TABLE hits ADD COLUMN IF NOT EXISTS browser VARCHAR(20) NOT NULL DEFAULT ''",
  },
  {
    name: '0011-visits-browser',
    sql: "ALTER TABLE visits ADD COLUMN IF NOT EXISTS browser VARCHAR(20) NOT NULL DEFAULT ''",
  },
  {
    name: '0011-leads-mail-domain',
    sql: "ALTER TABLE leads ADD COLUMN IF NOT EXISTS mail_domain VARCHAR(253) NOT NULL DEFAULT ''",
  },
  {
    name: '0011-leads-by-mail-domain',
    sql: 'ALTER TABLE leads ADD KEY IF NOT EXISTS by_mail_domain (business_id, mail_domain)',
  },
  { name: '0011-enquiries-consent', sql: 'ALTER TABLE enquiries ADD COLUMN IF NOT EXISTS consent JSON NULL' },
  {
    name: '0011-counted-landings',
    sql: `CREATE TABLE IF NOT EXISTS counted_landings (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      at DATETIME(3) NOT NULL,
      source VARCHAR(200) NOT NULL,
      medium VARCHAR(200) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_time (business_id, at))`,
  },
  {
    name: '0011-no-customers-past',
    sql: `CREATE TABLE IF NOT EXISTS no_customers_past (
      business_id UUID NOT NULL,
      kind VARCHAR(10) NOT NULL,
      value VARCHAR(253) NOT NULL,
      applied_by UUID NOT NULL,
      applied_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, kind, value))`,
  },
];

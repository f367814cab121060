import type { Migration } from './index';

/** What ads cost, and what it takes to count it: whose campaigns they are, exchange rates, fees. */
export const costs: Migration[] = [
  {
    name: '0056-costs',
    sql: `CREATE TABLE IF NOT EXISTS costs (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      account VARCHAR(80) NOT NULL,
      day DATE NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      campaign_id VARCHAR(80) NOT NULL,
      ad VARCHAR(200) NOT NULL,
      ad_id VARCHAR(80) NOT NULL,
      clicks INT UNSIGNED NOT NULL,
      amount_minor BIGINT NOT NULL,
      currency CHAR(3) NOT NULL,
      came_by VARCHAR(20) NOT NULL,
      read_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_day (business_id, day),
      KEY by_account (business_id, account, day))`,
  },
  {
    name: '0056-cost-matches',
    sql: `CREATE TABLE IF NOT EXISTS cost_matches (
      business_id UUID NOT NULL,
      account VARCHAR(80) NOT NULL,
      campaign_key VARCHAR(210) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      made_by VARCHAR(200) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, account, campaign_key))`,
  },
  {
    name: '0056-exchange-rates',
    sql: `CREATE TABLE IF NOT EXISTS exchange_rates (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      currency CHAR(3) NOT NULL,
      day DATE NOT NULL,
      millionths BIGINT NOT NULL,
      made_by VARCHAR(200) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      retired_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id))`,
  },
  {
    name: '0056-cost-fees',
    sql: `CREATE TABLE IF NOT EXISTS cost_fees (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      account VARCHAR(80) NOT NULL,
      hundredths INT NOT NULL,
      first_day DATE NOT NULL,
      last_day DATE NULL,
      made_by VARCHAR(200) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      retired_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id))`,
  },
];

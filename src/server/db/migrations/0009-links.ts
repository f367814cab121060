import type { Migration } from './index';

/**
 * Links, the tag sets they are made of, short links with their history and clicks, and what page checks found. A short
 * link's `stamp` is the database's own clock, by which every process finds what changed; nothing else reads it.
 */
export const links: Migration[] = [
  {
    name: '0009-links',
    sql: `CREATE TABLE IF NOT EXISTS links (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      landing VARCHAR(4000) NOT NULL,
      tags JSON NOT NULL,
      url VARCHAR(6000) NOT NULL,
      url_hash CHAR(64) NOT NULL,
      campaign VARCHAR(400) NOT NULL,
      used_in VARCHAR(10) NOT NULL,
      place VARCHAR(120) COLLATE utf8mb4_general_ci NOT NULL,
      owner VARCHAR(80) COLLATE utf8mb4_general_ci NOT NULL,
      made_at DATETIME(3) NOT NULL,
      changed_at DATETIME(3) NOT NULL,
      retired_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id),
      UNIQUE KEY by_url (business_id, url_hash),
      KEY by_campaign (business_id, campaign(100)))`,
  },
  {
    name: '0009-link-changes',
    sql: `CREATE TABLE IF NOT EXISTS link_changes (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      find VARCHAR(400) NOT NULL,
      put VARCHAR(400) NOT NULL,
      links JSON NOT NULL,
      changed_by UUID NOT NULL,
      changed_at DATETIME(3) NOT NULL,
      undone_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id))`,
  },
  {
    name: '0009-tag-sets',
    sql: `CREATE TABLE IF NOT EXISTS tag_sets (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      name VARCHAR(80) NOT NULL,
      tags JSON NOT NULL,
      used_in VARCHAR(10) NOT NULL,
      changed_at DATETIME(3) NOT NULL,
      retired_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id),
      UNIQUE KEY by_name (business_id, name))`,
  },
  {
    name: '0009-column-orders',
    sql: `CREATE TABLE IF NOT EXISTS column_orders (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      name VARCHAR(80) NOT NULL,
      columns_wanted JSON NOT NULL,
      PRIMARY KEY (business_id, id),
      UNIQUE KEY by_name (business_id, name))`,
  },
  {
    name: '0009-short-links',
    // eslint-disable-next-line no-restricted-syntax -- processes compare it, whose own clocks may differ
    sql: `CREATE TABLE IF NOT EXISTS short_links (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      path VARCHAR(80) NOT NULL,
      destination VARCHAR(6000) NOT NULL,
      wins VARCHAR(10) NOT NULL,
      status SMALLINT UNSIGNED NOT NULL,
      password_hash VARCHAR(200) NULL,
      expires_at DATETIME(3) NULL,
      made_at DATETIME(3) NOT NULL,
      changed_at DATETIME(3) NOT NULL,
      retired_at DATETIME(3) NULL,
      stamp DATETIME(6) NOT NULL DEFAULT CURRENT_TIMESTAMP(6) ON UPDATE CURRENT_TIMESTAMP(6),
      PRIMARY KEY (business_id, id),
      UNIQUE KEY by_path (business_id, path),
      KEY by_stamp (business_id, stamp))`,
  },
  {
    name: '0009-short-link-destinations',
    sql: `CREATE TABLE IF NOT EXISTS short_link_destinations (
      business_id UUID NOT NULL,
      short_link_id UUID NOT NULL,
      since DATETIME(3) NOT NULL,
      destination VARCHAR(6000) NOT NULL,
      changed_by UUID NULL,
      PRIMARY KEY (business_id, short_link_id, since))`,
  },
  {
    name: '0009-short-clicks',
    sql: `CREATE TABLE IF NOT EXISTS short_clicks (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      short_link_id UUID NOT NULL,
      at DATETIME(3) NOT NULL,
      day DATE NOT NULL,
      bot BOOLEAN NOT NULL,
      source VARCHAR(200) NOT NULL,
      medium VARCHAR(200) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      content VARCHAR(200) NOT NULL,
      referrer VARCHAR(300) NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_link (business_id, short_link_id, at),
      KEY by_day (business_id, day))`,
  },
  {
    name: '0009-page-checks',
    sql: `CREATE TABLE IF NOT EXISTS page_checks (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      url VARCHAR(6000) NOT NULL,
      url_hash CHAR(64) NOT NULL,
      state VARCHAR(10) NOT NULL,
      result JSON NULL,
      asked_at DATETIME(3) NOT NULL,
      checked_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id),
      KEY by_url (business_id, url_hash, asked_at))`,
  },
];

import type { Migration } from './index';

/** The draft of the rules, the campaign register, and which values of tags arrived. */
export const plan: Migration[] = [
  {
    name: '0008-draft-changes',
    sql: `CREATE TABLE IF NOT EXISTS draft_changes (
      business_id UUID NOT NULL,
      kind VARCHAR(20) NOT NULL,
      rule_id VARCHAR(250) NOT NULL,
      base INT UNSIGNED NOT NULL,
      value JSON NULL,
      changed_by UUID NOT NULL,
      changed_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, kind, rule_id))`,
  },
  {
    name: '0008-touch-tags',
    sql: `CREATE TABLE IF NOT EXISTS touch_tags (
      business_id UUID NOT NULL,
      touch_id UUID NOT NULL,
      tag VARCHAR(40) NOT NULL,
      value VARCHAR(200) NOT NULL,
      visitor_id UUID NOT NULL,
      at DATETIME(3) NOT NULL,
      host VARCHAR(253) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      PRIMARY KEY (business_id, touch_id, tag),
      KEY by_visitor (business_id, visitor_id),
      KEY by_value (business_id, tag, value, at))`,
  },
  {
    name: '0008-campaigns',
    sql: `CREATE TABLE IF NOT EXISTS campaigns (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      name VARCHAR(200) NOT NULL,
      friendly VARCHAR(120) COLLATE utf8mb4_general_ci NOT NULL,
      stage VARCHAR(10) NOT NULL,
      starts_on DATE NULL,
      ends_on DATE NULL,
      budget_minor BIGINT NULL,
      currency CHAR(3) NOT NULL,
      owner VARCHAR(80) NOT NULL,
      note VARCHAR(1000) NOT NULL,
      crm_account VARCHAR(40) NULL,
      crm_id VARCHAR(80) NULL,
      crm_type VARCHAR(80) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      changed_at DATETIME(3) NOT NULL,
      retired_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id),
      UNIQUE KEY by_name (business_id, name),
      UNIQUE KEY by_crm (business_id, crm_account, crm_id))`,
  },
];

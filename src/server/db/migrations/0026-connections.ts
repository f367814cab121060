import type { Migration } from './index';

/** How connected accounts are, what a CRM sent lately, who changed what, and invitations. */
export const connections: Migration[] = [
  {
    name: '0026-accounts-state',
    sql: `ALTER TABLE accounts
      ADD COLUMN IF NOT EXISTS paused_at DATETIME(3) NULL,
      ADD COLUMN IF NOT EXISTS retired_at DATETIME(3) NULL,
      ADD COLUMN IF NOT EXISTS asked_at DATETIME(3) NULL,
      ADD COLUMN IF NOT EXISTS answer_status VARCHAR(60) NOT NULL DEFAULT '',
      ADD COLUMN IF NOT EXISTS answer_said VARCHAR(300) NOT NULL DEFAULT '',
      ADD COLUMN IF NOT EXISTS worked_at DATETIME(3) NULL,
      ADD COLUMN IF NOT EXISTS broken_at DATETIME(3) NULL`,
  },
  {
    name: '0026-crm-arrivals',
    sql: `CREATE TABLE IF NOT EXISTS crm_arrivals (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      account_id UUID NOT NULL,
      received_at DATETIME(3) NOT NULL,
      came_by VARCHAR(10) NOT NULL,
      record MEDIUMBLOB NOT NULL,
      deal VARCHAR(60) NOT NULL,
      problem VARCHAR(500) NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_account (business_id, account_id, id))`,
  },
  {
    name: '0026-change-log',
    sql: `CREATE TABLE IF NOT EXISTS change_log (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      at DATETIME(3) NOT NULL,
      person_id UUID NULL,
      kind VARCHAR(20) NOT NULL,
      subject VARCHAR(300) NOT NULL,
      was VARCHAR(2000) NOT NULL,
      became VARCHAR(2000) NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_time (business_id, at))`,
  },
  {
    name: '0026-invitations',
    sql: `CREATE TABLE IF NOT EXISTS invitations (
      id UUID NOT NULL,
      business_id UUID NOT NULL,
      token_hash CHAR(64) NOT NULL,
      mail VARCHAR(254) COLLATE utf8mb4_uca1400_ai_ci NOT NULL,
      role VARCHAR(10) NOT NULL,
      may_release TINYINT(1) NOT NULL,
      sees_people TINYINT(1) NOT NULL,
      sees_money TINYINT(1) NOT NULL,
      invited_by UUID NOT NULL,
      made_at DATETIME(3) NOT NULL,
      ends_at DATETIME(3) NOT NULL,
      used_at DATETIME(3) NULL,
      withdrawn_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id),
      UNIQUE KEY by_token (business_id, token_hash))`,
  },
];

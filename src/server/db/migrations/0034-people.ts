import type { Migration } from './index';

/** Persons, companies and deals as tables of their own: an enquiry can have several deals, a person several records. */
export const people: Migration[] = [
  {
    name: '0034-companies',
    sql: `CREATE TABLE IF NOT EXISTS companies (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      account_id UUID NOT NULL,
      number VARCHAR(60) NOT NULL,
      name VARCHAR(120) COLLATE utf8mb4_uca1400_ai_ci NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_name (business_id, name))`,
  },
  {
    name: '0034-deals',
    sql: `CREATE TABLE IF NOT EXISTS deals (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      account_id UUID NOT NULL,
      number VARCHAR(60) NOT NULL,
      enquiry_id UUID NOT NULL,
      lead_id UUID NOT NULL,
      company_id UUID NULL,
      record JSON NOT NULL,
      stage VARCHAR(80) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      gone_at DATETIME(3) NULL,
      merged_into VARCHAR(60) NOT NULL DEFAULT '',
      PRIMARY KEY (business_id, id),
      UNIQUE KEY by_number (business_id, account_id, number),
      KEY by_enquiry (business_id, enquiry_id),
      KEY by_lead (business_id, lead_id),
      KEY by_merged (business_id, account_id, merged_into),
      KEY by_time (business_id, made_at))`,
  },
  {
    name: '0034-deals-of-enquiries',
    sql: `INSERT INTO deals (business_id, id, account_id, number, enquiry_id, lead_id, record, stage, made_at)
      SELECT business_id, id, account_id, crm_deal, id, lead_id, crm_record, COALESCE(stage, ''),
        FROM_UNIXTIME(JSON_VALUE(crm_record, '$.madeAt') / 1000)
      FROM enquiries WHERE crm_deal IS NOT NULL AND crm_record IS NOT NULL AND lead_id IS NOT NULL
      ON DUPLICATE KEY UPDATE id = VALUES(id)`,
  },
  {
    name: '0034-enquiries-deal',
    sql: 'ALTER TABLE enquiries ADD COLUMN IF NOT EXISTS deal_id UUID NULL',
  },
  {
    name: '0034-enquiries-of-deals',
    sql: `UPDATE enquiries e JOIN deals d ON d.business_id = e.business_id AND d.id = e.id
      SET e.deal_id = d.id WHERE e.deal_id IS NULL`,
  },
  {
    name: '0034-enquiries-without-records',
    sql: `ALTER TABLE enquiries DROP INDEX IF EXISTS by_deal, DROP COLUMN IF EXISTS crm_deal,
      DROP COLUMN IF EXISTS crm_record, DROP COLUMN IF EXISTS account_id`,
  },
  {
    name: '0034-identities',
    sql: `CREATE TABLE IF NOT EXISTS identities (
      business_id UUID NOT NULL,
      kind ENUM('record', 'mail', 'telephone') NOT NULL,
      hash CHAR(64) NOT NULL,
      lead_id UUID NOT NULL,
      PRIMARY KEY (business_id, kind, hash, lead_id),
      KEY by_lead (business_id, lead_id))`,
  },
  {
    name: '0034-identities-of-leads',
    sql: `INSERT INTO identities (business_id, kind, hash, lead_id)
      SELECT business_id, 'record', SHA2(CONCAT(account_id, ' ', crm_person), 256), id FROM leads
      UNION ALL SELECT business_id, 'mail', mail_hash, id FROM leads WHERE mail_hash <> ''
      UNION ALL SELECT business_id, 'telephone', telephone_hash, id FROM leads WHERE telephone_hash <> ''
      ON DUPLICATE KEY UPDATE lead_id = VALUES(lead_id)`,
  },
  {
    name: '0034-leads-joined',
    sql: `ALTER TABLE leads ADD COLUMN IF NOT EXISTS company_id UUID NULL,
      ADD COLUMN IF NOT EXISTS person_id UUID NULL,
      ADD COLUMN IF NOT EXISTS joined_by VARCHAR(20) NOT NULL DEFAULT '',
      ADD COLUMN IF NOT EXISTS joined_at DATETIME(3) NULL,
      ADD KEY IF NOT EXISTS by_person_id (business_id, person_id),
      ADD KEY IF NOT EXISTS by_company (business_id, company_id)`,
  },
  { name: '0034-leads-persons', sql: 'UPDATE leads SET person_id = id WHERE person_id IS NULL' },
  { name: '0034-leads-person', sql: 'ALTER TABLE leads MODIFY COLUMN person_id UUID NOT NULL' },
  {
    name: '0034-leads-without-hashes',
    sql: `ALTER TABLE leads DROP INDEX IF EXISTS by_mail, DROP INDEX IF EXISTS by_telephone,
      DROP COLUMN IF EXISTS mail_hash, DROP COLUMN IF EXISTS telephone_hash`,
  },
  {
    name: '0034-lead-pairs',
    sql: `CREATE TABLE IF NOT EXISTS lead_pairs (
      business_id UUID NOT NULL,
      lead_id UUID NOT NULL,
      other_id UUID NOT NULL,
      kind ENUM('apart', 'joined') NOT NULL,
      by_name VARCHAR(120) NOT NULL,
      at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, lead_id, other_id),
      KEY by_other (business_id, other_id))`,
  },
];

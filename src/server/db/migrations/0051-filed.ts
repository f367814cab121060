import type { Migration } from './index';

/** Files of conversions: what was sent, how it is read, and what became of each row. */
export const filed: Migration[] = [
  {
    name: '0051-filed-files',
    sql: `CREATE TABLE IF NOT EXISTS filed_files (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      name VARCHAR(120) NOT NULL,
      by_name VARCHAR(120) NOT NULL,
      at DATETIME(3) NOT NULL,
      hash CHAR(64) NOT NULL,
      columns JSON NOT NULL,
      how JSON NOT NULL,
      state VARCHAR(10) NOT NULL,
      problem VARCHAR(600) NOT NULL,
      rows_read INT UNSIGNED NOT NULL,
      rows_all INT UNSIGNED NULL,
      rows_stored INT UNSIGNED NOT NULL,
      counts JSON NOT NULL,
      ruled_at DATETIME(3) NULL,
      taken_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id))`,
  },
  {
    name: '0051-filed-chunks',
    sql: `CREATE TABLE IF NOT EXISTS filed_chunks (
      business_id UUID NOT NULL,
      file_id UUID NOT NULL,
      n INT UNSIGNED NOT NULL,
      bytes MEDIUMBLOB NOT NULL,
      PRIMARY KEY (business_id, file_id, n))`,
  },
  {
    name: '0051-filed-rows',
    sql: `CREATE TABLE IF NOT EXISTS filed_rows (
      business_id UUID NOT NULL,
      file_id UUID NOT NULL,
      line INT UNSIGNED NOT NULL,
      answer VARCHAR(10) NOT NULL,
      why VARCHAR(600) NOT NULL,
      conversion_id UUID NULL,
      strand_id UUID NULL,
      platform VARCHAR(40) NOT NULL,
      click_id VARCHAR(300) NOT NULL,
      says VARCHAR(60) NOT NULL,
      at DATETIME(3) NULL,
      amount VARCHAR(40) NOT NULL,
      currency VARCHAR(3) NOT NULL,
      order_id VARCHAR(80) NOT NULL,
      revision VARCHAR(10) NOT NULL,
      PRIMARY KEY (business_id, file_id, line),
      KEY by_conversion (business_id, conversion_id),
      KEY by_strand (business_id, strand_id))`,
  },
  {
    name: '0051-conversions-of-files',
    sql: `ALTER TABLE conversions
      ADD COLUMN IF NOT EXISTS order_id VARCHAR(80) NOT NULL DEFAULT '',
      ADD COLUMN IF NOT EXISTS ruled_at DATETIME(3) NULL,
      ADD COLUMN IF NOT EXISTS taken_back_at DATETIME(3) NULL`,
  },
];

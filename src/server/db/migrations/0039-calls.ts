import type { Migration } from './index';

/** Calls, the numbers that are dialled, how calls are read and count; and what a reference code finds a visitor by. */
export const calls: Migration[] = [
  {
    name: '0039-call-settings',
    sql: `CREATE TABLE IF NOT EXISTS call_settings (
      business_id UUID NOT NULL,
      secret VARBINARY(400) NULL,
      proof VARCHAR(10) NOT NULL,
      header VARCHAR(80) NOT NULL,
      reading JSON NOT NULL,
      columns_read JSON NULL,
      shortest INT NOT NULL,
      missed_count BOOLEAN NOT NULL,
      same_days INT NOT NULL,
      last_at DATETIME(3) NULL,
      last_sent VARBINARY(4000) NULL,
      last_problem VARCHAR(500) NOT NULL,
      changed_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id))`,
  },
  {
    name: '0039-call-numbers',
    sql: `CREATE TABLE IF NOT EXISTS call_numbers (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      number VARCHAR(40) NOT NULL,
      dial_key VARCHAR(9) NOT NULL,
      name VARCHAR(120) NOT NULL,
      source VARCHAR(200) NOT NULL,
      medium VARCHAR(200) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      content VARCHAR(200) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      retired_at DATETIME(3) NULL,
      PRIMARY KEY (business_id, id),
      UNIQUE KEY by_number (business_id, dial_key))`,
  },
  {
    name: '0039-calls',
    sql: `CREATE TABLE IF NOT EXISTS calls (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      number VARCHAR(80) NOT NULL,
      dialled VARCHAR(40) NOT NULL,
      caller_hash VARCHAR(64) NOT NULL,
      caller VARBINARY(400) NULL,
      started_at DATETIME(3) NOT NULL,
      seconds INT NOT NULL,
      answered BOOLEAN NOT NULL,
      reference VARCHAR(20) NOT NULL,
      came_by VARCHAR(10) NOT NULL,
      received_at DATETIME(3) NOT NULL,
      became VARCHAR(20) NOT NULL,
      found VARCHAR(20) NOT NULL,
      enquiry_id UUID NULL,
      PRIMARY KEY (business_id, id),
      KEY by_time (business_id, started_at),
      KEY by_caller (business_id, caller_hash, started_at),
      KEY by_enquiry (business_id, enquiry_id))`,
  },
  {
    name: '0039-visitor-ends',
    sql: `ALTER TABLE visits
      ADD COLUMN IF NOT EXISTS visitor_end CHAR(8) CHARACTER SET ascii
        GENERATED ALWAYS AS (RIGHT(CAST(visitor_id AS CHAR(36) CHARACTER SET ascii), 8)) VIRTUAL,
      ADD INDEX IF NOT EXISTS by_visitor_end (business_id, visitor_end)`,
  },
];

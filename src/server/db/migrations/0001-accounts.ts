import type { Migration } from './index';

/** People, sessions, businesses, roles, releases, connected accounts, background work. */
export const accounts: Migration[] = [
  {
    name: '0001-people',
    sql: `CREATE TABLE IF NOT EXISTS people (
      id UUID NOT NULL PRIMARY KEY,
      mail VARCHAR(254) COLLATE utf8mb4_uca1400_ai_ci NOT NULL UNIQUE,
      name VARCHAR(120) COLLATE utf8mb4_uca1400_ai_ci NOT NULL,
      password_hash VARCHAR(200) NOT NULL,
      preferences JSON NOT NULL,
      created_at DATETIME(3) NOT NULL)`,
  },
  {
    name: '0001-sessions',
    sql: `CREATE TABLE IF NOT EXISTS sessions (
      id UUID NOT NULL PRIMARY KEY,
      token_hash CHAR(64) NOT NULL UNIQUE,
      person_id UUID NOT NULL,
      agent VARCHAR(300) NOT NULL,
      created_at DATETIME(3) NOT NULL,
      seen_at DATETIME(3) NOT NULL,
      expires_at DATETIME(3) NOT NULL,
      revoked_at DATETIME(3) NULL,
      KEY by_person (person_id))`,
  },
  {
    name: '0001-sign-in-tries',
    sql: `CREATE TABLE IF NOT EXISTS sign_in_tries (
      id UUID NOT NULL PRIMARY KEY,
      mail_hash CHAR(64) NOT NULL,
      address VARCHAR(64) NOT NULL,
      at DATETIME(3) NOT NULL,
      KEY by_mail (mail_hash, at),
      KEY by_address (address, at))`,
  },
  {
    name: '0001-businesses',
    sql: `CREATE TABLE IF NOT EXISTS businesses (
      id UUID NOT NULL PRIMARY KEY,
      \`key\` VARCHAR(40) NOT NULL UNIQUE,
      name VARCHAR(120) NOT NULL,
      time_zone VARCHAR(60) NOT NULL,
      currency CHAR(3) NOT NULL,
      created_at DATETIME(3) NOT NULL)`,
  },
  {
    name: '0001-roles',
    sql: `CREATE TABLE IF NOT EXISTS roles (
      business_id UUID NOT NULL,
      person_id UUID NOT NULL,
      role ENUM('owner', 'editor', 'reader') NOT NULL,
      may_release BOOLEAN NOT NULL,
      sees_people BOOLEAN NOT NULL,
      sees_money BOOLEAN NOT NULL,
      PRIMARY KEY (business_id, person_id),
      KEY by_person (person_id))`,
  },
  {
    name: '0001-websites',
    sql: `CREATE TABLE IF NOT EXISTS websites (
      business_id UUID NOT NULL,
      host VARCHAR(253) NOT NULL,
      registrable VARCHAR(253) NOT NULL,
      PRIMARY KEY (business_id, host))`,
  },
  {
    name: '0001-releases',
    sql: `CREATE TABLE IF NOT EXISTS releases (
      business_id UUID NOT NULL,
      number INT UNSIGNED NOT NULL,
      name VARCHAR(120) NOT NULL,
      note VARCHAR(1000) NOT NULL,
      content JSON NOT NULL,
      hash CHAR(64) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, number))`,
  },
  {
    name: '0001-accounts',
    sql: `CREATE TABLE IF NOT EXISTS accounts (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      \`key\` VARCHAR(40) NOT NULL,
      kind VARCHAR(40) NOT NULL,
      name VARCHAR(120) NOT NULL,
      endpoint VARCHAR(300) NOT NULL,
      settings JSON NOT NULL,
      secrets VARBINARY(2000) NOT NULL,
      created_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, id),
      UNIQUE KEY by_key (business_id, \`key\`))`,
  },
  {
    name: '0001-work',
    sql: `CREATE TABLE IF NOT EXISTS work (
      business_id UUID NOT NULL,
      kind VARCHAR(30) NOT NULL,
      subject UUID NOT NULL,
      due_at DATETIME(3) NOT NULL,
      marks INT UNSIGNED NOT NULL,
      attempts INT UNSIGNED NOT NULL,
      owner CHAR(36) NULL,
      lease_until DATETIME(3) NULL,
      last_error VARCHAR(500) NULL,
      PRIMARY KEY (business_id, kind, subject),
      KEY due (kind, due_at))`,
  },
];

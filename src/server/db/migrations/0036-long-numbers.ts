import type { Migration } from './index';

/** A CRM that names no person's number has people told apart by their mail address, which can be long. */
export const longNumbers: Migration[] = [
  { name: '0036-people-numbers', sql: 'ALTER TABLE leads MODIFY COLUMN crm_person VARCHAR(120) NOT NULL' },
];

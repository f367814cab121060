import type { Migration } from './index';

/** Groups of report-backs that are held as one until somebody looked at them. */
export const brakes: Migration[] = [
  {
    name: '0047-brakes',
    sql: `CREATE TABLE IF NOT EXISTS brakes (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      outcome VARCHAR(20) NOT NULL,
      version INT NOT NULL,
      account VARCHAR(40) NOT NULL,
      because VARCHAR(10) NOT NULL,
      \`is\` BIGINT NOT NULL,
      usual BIGINT NOT NULL,
      since DATETIME(3) NOT NULL,
      made_at DATETIME(3) NOT NULL,
      ended_at DATETIME(3) NULL,
      ended_by VARCHAR(80) NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_outcome (business_id, outcome, account, ended_at))`,
  },
];

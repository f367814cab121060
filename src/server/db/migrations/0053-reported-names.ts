import type { Migration } from './index';

/** Places that are told events report them by longer names than platforms do. */
export const reportedNames: Migration[] = [
  {
    name: '0053-reported-names',
    sql: 'ALTER TABLE outcome_reports MODIFY outcome VARCHAR(210) NOT NULL',
  },
];

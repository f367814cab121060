import type { Migration } from './index';

/** Pages whose content security policy stopped the snippet in somebody's browser, as browsers report it. */
export const stoppedPages: Migration[] = [
  {
    name: '0014-stopped-pages',
    sql: `CREATE TABLE IF NOT EXISTS stopped_pages (
      business_id UUID NOT NULL,
      page VARCHAR(200) NOT NULL,
      directive VARCHAR(20) NOT NULL,
      wanted VARCHAR(200) NOT NULL,
      first_at DATETIME(3) NOT NULL,
      last_at DATETIME(3) NOT NULL,
      PRIMARY KEY (business_id, page, directive))`,
  },
];

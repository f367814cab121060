import type { Migration } from './index';

/** First UUID version 7 of a month: 48 bits of milliseconds, then zeros. */
export function monthBoundary(year: number, month: number): string {
  const hex = Date.UTC(year, month, 1).toString(16).padStart(12, '0');
  return `${hex.slice(0, 8)}-${hex.slice(8)}-0000-0000-000000000000`;
}

/** Monthly partitions; before the first and after the last everything goes into the outer ones. */
function partitions(fromYear: number, years: number): string {
  const rows: string[] = [];
  for (let month = 0; month < years * 12; month++) {
    const year = fromYear + Math.floor(month / 12);
    const name = `before_${year}_${String((month % 12) + 1).padStart(2, '0')}`;
    rows.push(`PARTITION ${name} VALUES LESS THAN ('${monthBoundary(year, month % 12)}')`);
  }
  return [...rows, 'PARTITION later VALUES LESS THAN (MAXVALUE)'].join(',\n');
}

/** Hits as they came, and what is derived from them per visitor. */
export const traffic: Migration[] = [
  {
    name: '0002-hits',
    sql: `CREATE TABLE IF NOT EXISTS hits (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      visitor_id UUID NOT NULL,
      kind VARCHAR(20) NOT NULL,
      host VARCHAR(253) NOT NULL,
      at DATETIME(3) NOT NULL,
      page_at DATETIME(3) NOT NULL,
      sent_at DATETIME(3) NOT NULL,
      received_at DATETIME(3) NOT NULL,
      release_number INT UNSIGNED NOT NULL,
      body JSON NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_visitor (business_id, visitor_id))
      PARTITION BY RANGE COLUMNS (id) (${partitions(2025, 5)})`,
  },
  {
    name: '0002-foreign-hits',
    sql: `CREATE TABLE IF NOT EXISTS foreign_hits (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      host VARCHAR(253) NOT NULL,
      received_at DATETIME(3) NOT NULL,
      body JSON NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_host (business_id, host))`,
  },
  {
    name: '0002-visits',
    sql: `CREATE TABLE IF NOT EXISTS visits (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      visitor_id UUID NOT NULL,
      started_at DATETIME(3) NOT NULL,
      ended_at DATETIME(3) NOT NULL,
      pages INT UNSIGNED NOT NULL,
      forms INT UNSIGNED NOT NULL,
      touch_id UUID NULL,
      PRIMARY KEY (business_id, id),
      KEY by_visitor (business_id, visitor_id),
      KEY by_time (business_id, started_at))`,
  },
  {
    name: '0002-touches',
    sql: `CREATE TABLE IF NOT EXISTS touches (
      business_id UUID NOT NULL,
      id UUID NOT NULL,
      visitor_id UUID NOT NULL,
      visit_id UUID NOT NULL,
      hit_id UUID NOT NULL,
      at DATETIME(3) NOT NULL,
      source VARCHAR(200) NOT NULL,
      medium VARCHAR(200) NOT NULL,
      campaign VARCHAR(200) NOT NULL,
      content VARCHAR(200) NOT NULL,
      term VARCHAR(200) NOT NULL,
      utm_id VARCHAR(200) NOT NULL,
      referrer VARCHAR(300) NOT NULL,
      landing VARCHAR(300) NOT NULL,
      platform VARCHAR(40) NOT NULL,
      click_id VARCHAR(300) NOT NULL,
      because VARCHAR(30) NOT NULL,
      page_because VARCHAR(30) NOT NULL,
      release_number INT UNSIGNED NOT NULL,
      PRIMARY KEY (business_id, id),
      KEY by_visitor (business_id, visitor_id),
      KEY by_click (business_id, platform, click_id))`,
  },
];

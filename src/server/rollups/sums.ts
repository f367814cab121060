/*
 * What is added up by day, one statement each: it writes a day's rows from the rows they are the sum of. Its own columns
 * come after business, zone, day and number.
 */

export interface Sum {
  table: string;
  columns: string;
  /** Of the rows that are added up: their moment, and what they are. */
  select: string;
  from: string;
  at: string;
  /** Days of accounts' zones too, under the zone's name; the business's own days alone stand under ''. */
  allZones?: boolean;
}

export const sums: Sum[] = [
  {
    table: 'strand_days',
    at: 'first_at',
    from: 'strands',
    allZones: true,
    columns: 'kind, platform, source, campaign, utm_id, marked, reached, state, reason, strands',
    select: `kind, platform, source, campaign, utm_id, marked, form_reached, form_state, form_reason, COUNT(*)`,
  },
  {
    table: 'page_days',
    at: 'at',
    from: "hits USE INDEX (by_time) WHERE kind = 'arrived' AND page <> ''",
    columns: 'page, arrivals, last_at',
    select: 'page, COUNT(*), MAX(at)',
  },
  {
    table: 'tag_days',
    at: 'at',
    from: 'touch_tags',
    columns: 'tag, value, host, campaign, arrivals, first_at, last_at',
    select: 'tag, value, host, campaign, COUNT(*), MIN(at), MAX(at)',
  },
  {
    table: 'touch_days',
    at: 'at',
    from: 'touches',
    columns: 'landing, source, medium, campaign, content, term, referrer_host, untagged, touches, first_at, last_at',
    select: `landing, source, medium, campaign, content, term, SUBSTRING_INDEX(referrer, '/', 1) AS referrer_host,
      because = 'outside_referrer' AS untagged, COUNT(*), MIN(at), MAX(at)`,
  },
  {
    table: 'return_days',
    at: 'started_at',
    from: 'visits WHERE gap_hours IS NOT NULL',
    columns: 'browser, soon, later',
    select: 'browser, COUNT(IF(gap_hours <= 168, 1, NULL)), COUNT(IF(gap_hours > 168, 1, NULL))',
  },
  {
    table: 'finding_days',
    at: 'at',
    from: 'findings',
    columns: 'kind, name, page, campaign, detail, times, last_at',
    select: 'kind, name, page, campaign, detail, COUNT(*), MAX(at)',
  },
];

/** How many of a select's columns are grouped by: all that stand before its first sum. */
const groupedBy = (select: string): number => select.split(/,\s*(?=COUNT)/)[0]!.split(/,(?![^(]*\))/).length;

/** The statement that writes one day's rows; its values: business, zone, day, business, from, to. */
export function insertDay({ table, columns, select, from, at }: Sum): string {
  const where = from.includes('WHERE') ? 'AND' : 'WHERE';
  const group = Array.from({ length: groupedBy(select) }, (_, i) => i + 1).join(', ');
  return `INSERT INTO ${table} (business_id, zone, day, n, ${columns})
    SELECT ?, ?, ?, ROW_NUMBER() OVER (), summed.* FROM (
      SELECT ${select} FROM ${from} ${where} business_id = ? AND ${at} >= ? AND ${at} < ? GROUP BY ${group}) AS summed`;
}

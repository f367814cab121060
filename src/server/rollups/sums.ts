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
  /** Rows from elsewhere that are added up with them. */
  and?: Pick<Sum, 'select' | 'from' | 'at'>[];
  /** Days of accounts' zones too, under the zone's name; the business's own days alone stand under ''. */
  allZones?: boolean;
}

/** Strands by their standings: as they are (`t`), or as they are on all ways in though not on this one (`o`). */
function standingsAs(counted: 't' | 'o') {
  const others = `JOIN standings o ON o.business_id = t.business_id AND o.way_in = 'none' AND o.strand_id = t.strand_id`;
  return {
    select: `t.way_in, s.kind, s.platform, s.source, s.campaign, s.utm_id, s.marked,
      ${counted}.reached, ${counted}.state, ${counted}.reason, COUNT(*)${counted === 't' ? '' : ' * -1'}`,
    from: `standings t JOIN strands s ON s.business_id = t.business_id AND s.id = t.strand_id
      ${counted === 't' ? '' : `${others} WHERE t.way_in <> 'none'`}`,
    at: 't.first_at',
  };
}

export const sums: Sum[] = [
  {
    table: 'strand_days',
    ...standingsAs('t'),
    // Where a strand stands otherwise on one way in, it is taken away there from where it stands on all.
    and: [standingsAs('o')],
    allZones: true,
    columns: 'way_in, kind, platform, source, campaign, utm_id, marked, reached, state, reason, strands',
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
    // What platforms' own forms took, and calls, never arrived on a page.
    from: "touches WHERE because NOT IN ('lead_form', 'call', 'import')",
    columns: 'landing, source, medium, campaign, content, term, referrer_host, untagged, touches, first_at, last_at',
    select: `landing, source, medium, campaign, content, term, SUBSTRING_INDEX(referrer, '/', 1) AS referrer_host,
      because = 'outside_referrer' AS untagged, COUNT(*), MIN(at), MAX(at)`,
  },
  {
    table: 'visit_days',
    at: 'v.started_at',
    from: `visits v LEFT JOIN touches t ON t.business_id = v.business_id AND t.id = v.touch_id WHERE v.marked = ''`,
    columns: 'source, medium, campaign, content, term, platform, referrer_host, landing, direct, previous_on, visits',
    select: `COALESCE(t.source, ''), COALESCE(t.medium, ''), COALESCE(t.campaign, ''), COALESCE(t.content, ''),
      COALESCE(t.term, ''), COALESCE(t.platform, ''), SUBSTRING_INDEX(COALESCE(t.referrer, ''), '/', 1),
      COALESCE(t.landing, ''), t.id IS NULL, v.previous_on, COUNT(*)`,
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

/** The statement that writes one day's rows, with its values. @param from ms, `to` ms: not included */
export function insertDay(
  { table, columns, and = [], ...first }: Sum,
  businessId: string,
  zone: string,
  day: string,
  from: number,
  to: number,
): { sql: string; replacements: unknown[] } {
  const parts = [first, ...and];
  const selects = parts.map((part) => {
    const where = part.from.includes('WHERE') ? 'AND' : 'WHERE';
    const group = Array.from({ length: groupedBy(part.select) }, (_, i) => i + 1).join(', ');
    const business = part.at.includes('.') ? `${part.at.split('.')[0]}.business_id` : 'business_id';
    return `SELECT ${part.select} FROM ${part.from}
      ${where} ${business} = ? AND ${part.at} >= ? AND ${part.at} < ? GROUP BY ${group}`;
  });
  return {
    sql: `INSERT INTO ${table} (business_id, zone, day, n, ${columns})
      SELECT ?, ?, ?, ROW_NUMBER() OVER (), summed.* FROM (${selects.join(' UNION ALL ')}) AS summed`,
    replacements: [businessId, zone, day, ...parts.flatMap(() => [businessId, new Date(from), new Date(to)])],
  };
}

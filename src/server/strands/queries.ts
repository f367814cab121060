import { QueryTypes, type Sequelize } from 'sequelize';
import { likeText } from '../db';
import type { Reason } from '../../core/reasons/codes';
import type {
  FollowedGroup,
  HopState,
  Landings,
  Period,
  ShortLinkClicks,
  StrandKind,
  StrandListQuery,
} from '../../core/strands';
import { hops } from '../../core/strands';
import { pageSize } from '../leads/queries';
import type { Place } from '../place';

/* Grouping and joining that the models cannot say. */

const periodValues = (businessId: string, period: Period) => [businessId, new Date(period.from), new Date(period.to)];

/** Days of a time zone, such as `2027-02-15`, the first and the last. */
export interface Days {
  zone: string;
  firstDay: string;
  lastDay: string;
}
const inDays = 'business_id = ? AND zone = ? AND day BETWEEN ? AND ?';
const dayValues = (businessId: string, { zone, firstDay, lastDay }: Days) => [businessId, zone, firstDay, lastDay];

/** The cohort of some days, grouped by how far its strands came. */
export async function readGroups(db: Sequelize, businessId: string, days: Days): Promise<FollowedGroup[]> {
  const rows = await db.query<Omit<FollowedGroup, 'reason'> & { reason: string | null }>(
    `SELECT reached, state, reason, SUM(strands) AS strands, SUM(IF(kind = 'click', strands, 0)) AS withClickId
     FROM strand_days WHERE ${inDays} AND kind <> 'enquiry' AND marked = ''
     GROUP BY reached, state, reason`,
    { replacements: dayValues(businessId, days), type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({
    ...row,
    reason: row.reason === null ? null : (JSON.parse(row.reason) as Reason),
    strands: Number(row.strands),
    withClickId: Number(row.withClickId),
  }));
}

/** What stands beside the line: enquiries without any known click or tagged landing, strands of no customers, and landings that were only counted. */
export async function countBeside(
  db: Sequelize,
  businessId: string,
  days: Days,
  period: Period,
): Promise<{ alone: number; noCustomers: number; counted: number }> {
  const [row] = await db.query<Record<'alone' | 'noCustomers' | 'counted', number | null>>(
    `SELECT SUM(IF(kind = 'enquiry' AND marked = '', strands, 0)) AS alone,
       SUM(IF(marked <> '', strands, 0)) AS noCustomers,
       (SELECT COUNT(*) FROM counted_landings WHERE business_id = ? AND at >= ? AND at < ?) AS counted
     FROM strand_days WHERE ${inDays}`,
    {
      replacements: [...periodValues(businessId, period), ...dayValues(businessId, days)],
      type: QueryTypes.SELECT,
    },
  );
  return {
    alone: Number(row!.alone ?? 0),
    noCustomers: Number(row!.noCustomers ?? 0),
    counted: Number(row!.counted ?? 0),
  };
}

/** What landed in some days, by what clicks are compared with landings by. */
export async function readLandings(db: Sequelize, businessId: string, days: Days): Promise<Landings[]> {
  const rows = await db.query<Landings>(
    `SELECT platform, source, campaign, utm_id AS campaignId, SUM(strands) AS landings
     FROM strand_days WHERE ${inDays} AND kind <> 'enquiry' AND marked = '' AND reached >= 2
     GROUP BY platform, source, campaign, utm_id`,
    { replacements: dayValues(businessId, days), type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({ ...row, landings: Number(row.landings) }));
}

/** Clicks that an account reported of one of its campaigns. */
export interface ReportedCampaign {
  accountId: string;
  source: string;
  campaign: string;
  id: string;
  clicks: number;
}

/** Clicks by account and campaign, for days of the accounts. */
export async function readReportedClicks(
  db: Sequelize,
  businessId: string,
  firstDay: string,
  lastDay: string,
): Promise<ReportedCampaign[]> {
  const rows = await db.query<ReportedCampaign>(
    `SELECT account_id AS accountId, source, campaign, MAX(campaign_id) AS id, SUM(clicks) AS clicks FROM click_reports
     WHERE business_id = ? AND day BETWEEN ? AND ? GROUP BY account_id, source, campaign`,
    { replacements: [businessId, firstDay, lastDay], type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({ ...row, clicks: Number(row.clicks) }));
}

/** Clicks on short links by their tags, those of bots left out, for days of the business. */
export async function readShortLinkClicks(
  db: Sequelize,
  businessId: string,
  firstDay: string,
  lastDay: string,
): Promise<ShortLinkClicks[]> {
  const rows = await db.query<ShortLinkClicks>(
    `SELECT source, campaign, COUNT(*) AS clicks FROM short_clicks
     WHERE business_id = ? AND day BETWEEN ? AND ? AND bot = FALSE AND source <> '' GROUP BY source, campaign`,
    { replacements: [businessId, firstDay, lastDay], type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({ ...row, clicks: Number(row.clicks) }));
}

/** Hours from click to outcome of the newest counted outcomes. */
export async function readCycleHours(db: Sequelize, businessId: string, code: string): Promise<number[]> {
  const rows = await db.query<{ hours: number }>(
    `SELECT TIMESTAMPDIFF(HOUR, s.first_at, o.happened_at) AS hours FROM outcomes o
     JOIN enquiries e ON e.business_id = o.business_id AND e.id = o.enquiry_id
     JOIN strands s ON s.business_id = e.business_id AND s.id = e.strand_id AND s.kind <> 'enquiry'
     WHERE o.business_id = ? AND o.code = ? ORDER BY o.happened_at DESC LIMIT 2000`,
    { replacements: [businessId, code], type: QueryTypes.SELECT },
  );
  return rows.map((row) => Number(row.hours));
}

export interface StrandQueryRow {
  id: string;
  kind: StrandKind;
  platform: string;
  clickId: string;
  firstAt: Date;
  source: string;
  medium: string;
  campaign: string;
  content: string;
  reached: number;
  state: HopState | null;
  reason: string | null;
  enquiryId: string | null;
  company: string | null;
}

/** Narrows a list to the strands behind one number of the line: those that made a hop, or stopped before it. */
function filterStanding({ hop, state }: StrandListQuery, where: string[], values: unknown[]): void {
  const index = hops.indexOf(hop);
  where.push(hop === 'clicked' && state === 'unknown' ? "s.kind = 'enquiry'" : "s.kind <> 'enquiry'");
  if (state === 'made_it') {
    where.push('s.form_reached > ?');
    values.push(index);
  } else if (hop !== 'clicked') {
    where.push('s.form_reached = ? AND s.form_state = ?');
    values.push(index, state);
  }
}

/**
 * Strands of a period behind one number of the line, with the newest enquiry of each.
 *
 * @param seesPeople false: nothing is sorted or found by who somebody is
 * @param after goes on behind this place of the list, newest first, and counts nothing; null for its beginning
 */
export async function listStrands(
  db: Sequelize,
  businessId: string,
  period: Period,
  filter: StrandListQuery,
  seesPeople: boolean,
  limit = pageSize,
  after?: Place | null,
): Promise<{ rows: StrandQueryRow[]; total: number }> {
  const where = ['s.business_id = ? AND s.first_at >= ? AND s.first_at < ?'];
  const values: unknown[] = periodValues(businessId, period);
  if (filter.mark === 'any') where.push("s.marked <> ''");
  else {
    where.push('s.marked = ?');
    values.push(filter.mark);
  }
  if (!filter.mark) filterStanding(filter, where, values);
  if (filter.reason) {
    where.push("JSON_VALUE(s.form_reason, '$.code') = ?");
    values.push(filter.reason);
  }
  if (filter.find) {
    const findable = ['s.click_id', 's.campaign', ...(seesPeople ? ['l.company'] : [])];
    where.push(`(${findable.map((column) => `${column} LIKE ?`).join(' OR ')})`);
    values.push(...findable.map(() => likeText(filter.find)));
  }
  if (after) {
    where.push('(s.first_at < ? OR (s.first_at = ? AND s.id < ?))');
    values.push(after.at, after.at, after.id);
  }
  const joins = `LEFT JOIN enquiries e ON e.business_id = s.business_id AND e.strand_id = s.id
       AND e.id = (SELECT MAX(n.id) FROM enquiries n WHERE n.business_id = s.business_id AND n.strand_id = s.id)
     LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id`;
  const columns = { first_at: 's.first_at', campaign: 's.campaign', company: seesPeople ? 'l.company' : 's.first_at' };
  const column = columns[filter.sort];
  // Rows of one moment go in the same direction, as the index has them.
  const direction = filter.descending === 'yes' ? 'DESC' : 'ASC';
  const rows = await db.query<StrandQueryRow>(
    `SELECT s.id, s.kind, s.platform, s.click_id AS clickId, s.first_at AS firstAt, s.source, s.medium, s.campaign,
       s.content, s.form_reached AS reached, s.form_state AS state, s.form_reason AS reason, e.id AS enquiryId,
       l.company
     FROM strands s ${joins} WHERE ${where.join(' AND ')} ORDER BY ${column} ${direction}, s.id ${direction} LIMIT ? OFFSET ?`,
    { replacements: [...values, limit, (filter.page - 1) * pageSize], type: QueryTypes.SELECT },
  );
  if (after !== undefined) return { rows, total: rows.length };
  // Each strand is counted once, so that what is joined matters only where it is looked into.
  const [all] = await db.query<{ n: number }>(
    `SELECT COUNT(*) AS n FROM strands s ${filter.find ? joins : ''} WHERE ${where.join(' AND ')}`,
    { replacements: values, type: QueryTypes.SELECT },
  );
  return { rows, total: Number(all!.n) };
}

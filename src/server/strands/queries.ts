import type { Sequelize } from 'sequelize';
import { type Read, orNull, pick, selectOne, selectRows, text, whole, likeText } from '../db';
import type { Reason } from '../../core/reasons/codes';
import type { FollowedGroup, Landings, Period, ShortLinkClicks, StrandListQuery } from '../../core/strands';
import { hops } from '../../core/strands';
import { pageSize } from '../leads/queries';
import type { Place } from '../place';
import { strandDays } from '../rollups/table';
import { clickReports } from '../platforms/table';
import { enquiries, leads } from '../leads/table';
import { strands } from './table';
import { shortClicks } from '../links/table';

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
  const rows = await selectRows(
    db,
    {
      ...pick(strandDays, ['reached', 'state', 'reason']),
      strands: whole().of('SUM(strands)'),
      withClickId: whole().of("SUM(IF(kind = 'click', strands, 0))"),
    },
    `FROM strand_days WHERE ${inDays} AND kind <> 'enquiry' AND marked = '' GROUP BY reached, state, reason`,
    dayValues(businessId, days),
  );
  return rows.map((row) => ({ ...row, reason: row.reason === null ? null : (JSON.parse(row.reason) as Reason) }));
}

/** What stands beside the line: enquiries without any known click or tagged landing, strands of no customers, and landings that were only counted. */
export async function countBeside(
  db: Sequelize,
  businessId: string,
  days: Days,
  period: Period,
): Promise<{ alone: number; noCustomers: number; counted: number }> {
  return selectOne(
    db,
    {
      alone: whole().of("COALESCE(SUM(IF(kind = 'enquiry' AND marked = '', strands, 0)), 0)"),
      noCustomers: whole().of("COALESCE(SUM(IF(marked <> '', strands, 0)), 0)"),
      counted: whole().of('(SELECT COUNT(*) FROM counted_landings WHERE business_id = ? AND at >= ? AND at < ?)'),
    },
    `FROM strand_days WHERE ${inDays}`,
    [...periodValues(businessId, period), ...dayValues(businessId, days)],
  );
}

/** What landed in some days, by what clicks are compared with landings by. */
export async function readLandings(db: Sequelize, businessId: string, days: Days): Promise<Landings[]> {
  return selectRows(
    db,
    {
      ...pick(strandDays, ['platform', 'source', 'campaign']),
      campaignId: text().of('utm_id'),
      landings: whole().of('SUM(strands)'),
    },
    `FROM strand_days WHERE ${inDays} AND kind <> 'enquiry' AND marked = '' AND reached >= 2
     GROUP BY platform, source, campaign, utm_id`,
    dayValues(businessId, days),
  );
}

/** Clicks that an account reported of one of its campaigns. */
const reportedCampaign = {
  ...pick(clickReports, ['accountId', 'source', 'campaign']),
  id: text().of('MAX(campaign_id)'),
  clicks: whole().of('SUM(clicks)'),
};
export type ReportedCampaign = Read<typeof reportedCampaign>;

/** Clicks by account and campaign, for days of the accounts. */
export async function readReportedClicks(
  db: Sequelize,
  businessId: string,
  firstDay: string,
  lastDay: string,
): Promise<ReportedCampaign[]> {
  return selectRows(
    db,
    reportedCampaign,
    'FROM click_reports WHERE business_id = ? AND day BETWEEN ? AND ? GROUP BY account_id, source, campaign',
    [businessId, firstDay, lastDay],
  );
}

/** Clicks on short links by their tags, those of bots left out, for days of the business. */
export async function readShortLinkClicks(
  db: Sequelize,
  businessId: string,
  firstDay: string,
  lastDay: string,
): Promise<ShortLinkClicks[]> {
  return selectRows(
    db,
    { ...pick(shortClicks, ['source', 'campaign']), clicks: whole().of('COUNT(*)') },
    `FROM short_clicks
     WHERE business_id = ? AND day BETWEEN ? AND ? AND bot = FALSE AND source <> '' GROUP BY source, campaign`,
    [businessId, firstDay, lastDay],
  );
}

/** Hours from click to outcome of the newest counted outcomes. */
export async function readCycleHours(db: Sequelize, businessId: string, code: string): Promise<number[]> {
  const rows = await selectRows(
    db,
    { hours: whole().of('TIMESTAMPDIFF(HOUR, s.first_at, o.happened_at)') },
    `FROM outcomes o
     JOIN enquiries e ON e.business_id = o.business_id AND e.id = o.enquiry_id
     JOIN strands s ON s.business_id = e.business_id AND s.id = e.strand_id AND s.kind <> 'enquiry'
     WHERE o.business_id = ? AND o.code = ? ORDER BY o.happened_at DESC LIMIT 2000`,
    [businessId, code],
  );
  return rows.map(({ hours }) => hours);
}

/** What a list of strands shows of each, from the tables by the aliases of `listStrands`. */
const listed = {
  ...pick(strands, ['id', 'kind', 'platform', 'clickId', 'firstAt', 'source', 'medium', 'campaign', 'content'], 's'),
  reached: strands.columns.formReached.of('s.form_reached'),
  state: strands.columns.formState.of('s.form_state'),
  reason: strands.columns.formReason.of('s.form_reason'),
  enquiryId: enquiries.columns.id.of('e.id').nullable(),
  ...orNull(pick(leads, ['company'], 'l')),
};
export type StrandQueryRow = Read<typeof listed>;

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
  const rows = await selectRows(
    db,
    listed,
    `FROM strands s ${joins} WHERE ${where.join(' AND ')}
     ORDER BY ${column} ${direction}, s.id ${direction} LIMIT ? OFFSET ?`,
    [...values, limit, (filter.page - 1) * pageSize],
  );
  if (after !== undefined) return { rows, total: rows.length };
  // Each strand is counted once, so that what is joined matters only where it is looked into.
  const { total } = await selectOne(
    db,
    { total: whole().of('COUNT(*)') },
    `FROM strands s ${filter.find ? joins : ''} WHERE ${where.join(' AND ')}`,
    values,
  );
  return { rows, total };
}

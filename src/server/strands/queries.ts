import type { Sequelize } from 'sequelize';
import { type Read, orNull, pick, selectOne, selectRows, text, uuid, whole } from '../db';
import type { Reason } from '../../core/reasons/codes';
import type { FollowedGroup, Landings, Period, ShortLinkClicks, StrandListQuery } from '../../core/strands';
import { hops } from '../../core/strands';
import { inOrderOf, type Part } from '../lists';
import { strandDays } from '../rollups/table';
import { clickReports } from '../platforms/table';
import { findingCondition, type LeadFinding } from '../leads/find';
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

const withEnquiry = `LEFT JOIN enquiries e ON e.business_id = s.business_id AND e.strand_id = s.id
    AND e.id = (SELECT MAX(n.id) FROM enquiries n WHERE n.business_id = s.business_id AND n.strand_id = s.id)
  LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id`;

/** What a list's query means: a condition over `strands s` with its values, and the tables that it looks into. */
function conditionOf(
  businessId: string,
  period: Period,
  filter: StrandListQuery,
  finding: LeadFinding | null,
  seesPeople: boolean,
) {
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
  if (finding) {
    const [sql, found] = findingCondition(businessId, finding, seesPeople);
    where.push(`(${sql})`);
    values.push(...found);
  }
  return { where: where.join(' AND '), values, joins: finding ? withEnquiry : '' };
}

/**
 * IDs of the strands of a period behind one number of the line, in the list's order.
 *
 * @param finding what is looked for, as the list of leads reads it; null for everything
 * @param seesPeople false: nothing is sorted or found by who somebody is
 */
export async function findStrands(
  db: Sequelize,
  businessId: string,
  period: Period,
  filter: StrandListQuery,
  finding: LeadFinding | null,
  seesPeople: boolean,
  { limit, offset = 0, after = null }: Part,
): Promise<string[]> {
  const { where, values, joins } = conditionOf(businessId, period, filter, finding, seesPeople);
  const byCompany = filter.sort === 'company' && seesPeople;
  const column = { first_at: 's.first_at', campaign: 's.campaign', company: byCompany ? 'l.company' : 's.first_at' };
  // Rows of one moment go in the same direction, as the index has them.
  const direction = filter.descending === 'yes' ? 'DESC' : 'ASC';
  const rows = await selectRows(
    db,
    { id: uuid().of('s.id') },
    `FROM strands s ${joins || (byCompany ? withEnquiry : '')}
     WHERE ${where} ${after ? 'AND (s.first_at < ? OR (s.first_at = ? AND s.id < ?))' : ''}
     ORDER BY ${column[filter.sort]} ${direction}, s.id ${direction} LIMIT ? OFFSET ?`,
    [...values, ...(after ? [after.at, after.at, after.id] : []), limit, offset],
  );
  return rows.map(({ id }) => id);
}

/** Strands with the newest enquiry of each, in the order of their IDs as given. */
export async function readStrands(db: Sequelize, businessId: string, ids: string[]): Promise<StrandQueryRow[]> {
  if (ids.length === 0) return [];
  const rows = await selectRows(db, listed, `FROM strands s ${withEnquiry} WHERE s.business_id = ? AND s.id IN (?)`, [
    businessId,
    ids,
  ]);
  return inOrderOf(ids, rows);
}

/** How many strands a list has. */
export async function countStrands(
  db: Sequelize,
  businessId: string,
  period: Period,
  filter: StrandListQuery,
  finding: LeadFinding | null,
  seesPeople: boolean,
): Promise<number> {
  const { where, values, joins } = conditionOf(businessId, period, filter, finding, seesPeople);
  const { total } = await selectOne(
    db,
    { total: whole().of('COUNT(*)') },
    `FROM strands s ${joins} WHERE ${where}`,
    values,
  );
  return total;
}

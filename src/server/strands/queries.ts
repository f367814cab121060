import type { Sequelize } from 'sequelize';
import { type Read, orNull, pick, selectOne, selectRows, text, uuid, whole } from '../db';
import type { Reason } from '../../core/reasons/codes';
import {
  happeningHops,
  isFromCounted,
  type FollowedGroup,
  type Hop,
  type LineViewKind,
  type Origin,
  type Period,
  type ShortLinkClicks,
  type StrandListQuery,
  type TagNarrowing,
  type WayInKind,
} from '../../core/strands';
import { beginsElsewhere, waysIn } from '../../core/ways-in';
import { inOrderOf, type Part } from '../lists';
import { strandDays } from '../rollups/table';
import { clickReports } from '../platforms/table';
import { findingCondition, type LeadFinding } from '../leads/find';
import { enquiries, leads } from '../leads/table';
import { ofSegment } from './in-segment';
import { cameWith, type Narrowing } from './narrowing';
import { atHop, countedKinds, standing, standingJoins, type StandingCondition } from './standing';
import { idsBehind, type Toward } from './toward';
import type { DaySpan } from './range';
import { strands } from './table';
import { shortClicks } from '../links/table';

/* Grouping and joining that the models cannot say. */

const periodValues = (businessId: string, period: Period) => [businessId, new Date(period.from), new Date(period.to)];

/** Days of a time zone, such as `2027-02-15`, the first and the last. */
export interface Days extends DaySpan {
  zone: string;
}
const inDays = 'business_id = ? AND zone = ? AND day BETWEEN ? AND ?';
const dayValues = (businessId: string, { zone, firstDay, lastDay }: Days) => [businessId, zone, firstDay, lastDay];

/** The cohort of some days, grouped by how far its strands came on a way in. */
export async function readGroups(
  db: Sequelize,
  businessId: string,
  days: Days,
  way: WayInKind,
  tags: TagNarrowing | null = null,
): Promise<FollowedGroup[]> {
  const elsewhere = beginsElsewhere(waysIn[way]);
  const within = cameWith('strand_days', tags);
  // What came in elsewhere has a standing of its own there, and none that it shares with what landed.
  const counted = elsewhere ? 'way_in = ? AND strands > 0' : "way_in IN ('none', ?) AND kind IN ('click', 'landing')";
  const rows = await selectRows(
    db,
    {
      ...pick(strandDays, ['reached', 'state', 'reason']),
      strands: whole().of('SUM(strands)'),
      withClickId: whole().of(elsewhere ? 'SUM(strands)' : "SUM(IF(kind = 'click', strands, 0))"),
    },
    `FROM strand_days WHERE ${inDays} AND ${counted} AND marked = '' AND ${within.sql}
     GROUP BY reached, state, reason HAVING SUM(strands) <> 0`,
    [...dayValues(businessId, days), way, ...within.values],
  );
  return rows.map((row) => ({ ...row, reason: row.reason === null ? null : (JSON.parse(row.reason) as Reason) }));
}

/** What stands beside a line: enquiries (or orders) without any known click or tagged landing, strands of no customers, and landings that were only counted. */
export async function countBeside(
  db: Sequelize,
  businessId: string,
  days: Days,
  period: Period,
  way: WayInKind,
): Promise<{ alone: number; noCustomers: number; counted: number }> {
  return selectOne(
    db,
    {
      alone: whole().of("COALESCE(SUM(IF(way_in = 'none' AND kind = ? AND marked = '', strands, 0)), 0)"),
      noCustomers: whole().of("COALESCE(SUM(IF(way_in = 'none' AND marked <> '', strands, 0)), 0)"),
      counted: whole().of('(SELECT COUNT(*) FROM counted_landings WHERE business_id = ? AND at >= ? AND at < ?)'),
    },
    `FROM strand_days WHERE ${inDays}`,
    [waysIn[way].alone, ...periodValues(businessId, period), ...dayValues(businessId, days)],
  );
}

/** What strands of some days came with, by what clicks are compared with landings by. */
export async function readOrigins(db: Sequelize, businessId: string, days: Days): Promise<Origin[]> {
  // What is otherwise on one way in is counted there and taken away from all: the sum over all of them is each strand once.
  const landed = "way_in = 'none' AND kind IN ('click', 'landing') AND reached >= 2";
  return selectRows(
    db,
    {
      ...pick(strandDays, ['platform', 'source', 'campaign']),
      campaignId: text().of('utm_id'),
      strands: whole().of('SUM(strands)'),
      landings: whole().of(`SUM(IF(${landed}, strands, 0))`),
    },
    `FROM strand_days WHERE ${inDays} AND marked = '' GROUP BY platform, source, campaign, utm_id`,
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
export async function readCycleHours(
  db: Sequelize,
  businessId: string,
  code: string,
  way: WayInKind,
): Promise<number[]> {
  const { kind, own, hops } = waysIn[way];
  const counted = hops.includes('qualified') ? 'qualified' : own;
  const rows = await selectRows(
    db,
    { hours: whole().of('TIMESTAMPDIFF(HOUR, s.first_at, o.happened_at)') },
    `FROM outcomes o
     JOIN hops h ON h.business_id = o.business_id AND h.subject_id = o.subject_id AND h.way_in = '${kind}'
       AND h.hop = '${counted}'
     JOIN strands s ON s.business_id = h.business_id AND s.id = h.strand_id AND s.kind IN ('click', 'landing')
     WHERE o.business_id = ? AND o.code = ? ORDER BY o.happened_at DESC LIMIT 2000`,
    [businessId, code],
  );
  return rows.map(({ hours }) => hours);
}

/** What a list of strands shows of each, from the tables by the aliases of `listStrands`. */
const listed = {
  ...pick(strands, ['id', 'kind', 'platform', 'clickId', 'firstAt', 'source', 'medium', 'campaign', 'content'], 's'),
  ...standing,
  enquiryId: enquiries.columns.id.of('e.id').nullable(),
  ...orNull(pick(leads, ['company'], 'l')),
};
export type StrandQueryRow = Read<typeof listed>;

const withEnquiry = `LEFT JOIN enquiries e ON e.business_id = s.business_id AND e.strand_id = s.id
    AND e.id = (SELECT MAX(n.id) FROM enquiries n WHERE n.business_id = s.business_id AND n.strand_id = s.id)
  LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id`;

const firstSeenWithin = ({ from, to }: Period): StandingCondition => ({
  sql: 'f.first_at >= ? AND f.first_at < ?',
  values: [new Date(from), new Date(to)],
});

/** That a strand made a hop of a way in within some days, and not before. */
const madeWithin = (businessId: string, { from, to }: Period, way: WayInKind, hop: Hop): StandingCondition => ({
  sql: `f.strand_id IN (SELECT h.strand_id FROM hops h
    WHERE h.business_id = ? AND h.hop = ? AND h.at >= ? AND h.at < ? AND h.way_in = ? AND h.state = 'made_it'
      AND NOT EXISTS (SELECT 1 FROM hops p WHERE p.business_id = h.business_id AND p.strand_id = h.strand_id
        AND p.way_in = h.way_in AND p.hop = h.hop AND p.state = 'made_it' AND p.at < ?))`,
  values: [businessId, hop, new Date(from), new Date(to), way, new Date(from)],
});

/** That a strand's platform took a correction of what it confirmed on a way in. */
const isCorrected = `EXISTS (SELECT 1 FROM hops h
  JOIN report_backs r ON r.business_id = h.business_id AND r.subject_id = h.subject_id AND r.correction > 0
    AND r.state IN ('told', 'confirmed')
  JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id AND o.code = h.outcome
  WHERE h.business_id = f.business_id AND h.strand_id = f.strand_id AND h.way_in = ? AND h.hop = 'confirmed')`;

/** The standing that every strand has. */
const allStandings: StandingCondition = { sql: "f.way_in = 'none'", values: [] };

/** Only those that stopped by one reason; '' for any. */
const stoppedBy = ({ sql, values }: StandingCondition, { reason }: StrandListQuery): StandingCondition =>
  reason === ''
    ? { sql, values }
    : { sql: `${sql} AND JSON_VALUE(f.reason, '$.code') = ?`, values: [...values, reason] };

/**
 * Those behind one number of a line that is narrowed to an outcome, from where it is counted on. Where that is what came in itself,
 * those that nothing came in of did not come to it either.
 */
function towardAt(toward: Toward, filter: StrandFilter, within: Period | null): StandingCondition {
  const { hop, state } = filter;
  const ids = idsBehind(toward, filter, within);
  const own =
    ids.length > 0
      ? { sql: "(f.way_in = 'none' AND f.strand_id IN (?))", values: [ids] }
      : { sql: 'FALSE', values: [] };
  if (state === 'made_it' || hop !== toward.way.own) return own;
  const others = stoppedBy(atHop(filter.way, hop, state), filter);
  return { sql: `(${own.sql} OR ${others.sql})`, values: [...own.values, ...others.values] };
}

/** What a list's query means: a condition over `standings f` and `strands s` with its values, and the tables it looks into. */
function conditionOf(
  businessId: string,
  period: Period,
  filter: StrandFilter,
  finding: LeadFinding | null,
  seesPeople: boolean,
) {
  const { way, mark, segment, tags, hop, state, toward } = filter;
  const happened =
    filter.view === 'happened' && !mark && state === 'made_it' && happeningHops(waysIn[way]).includes(hop);
  const isToward = toward !== null && !mark && isFromCounted(waysIn[way], hop);
  const conditions = isToward
    ? [towardAt(toward, filter, happened ? period : null), ...(happened ? [] : [firstSeenWithin(period)])]
    : [
        mark ? allStandings : stoppedBy(atHop(way, hop, state), filter),
        happened ? madeWithin(businessId, period, way, hop) : firstSeenWithin(period),
        ...(filter.corrected === 'yes' ? [{ sql: isCorrected, values: [way] }] : []),
      ];
  const where = ['f.business_id = ?', ...conditions.map(({ sql }) => sql)];
  const values: unknown[] = [businessId, ...conditions.flatMap((one) => one.values)];
  if (mark === 'any') where.push("s.marked <> ''");
  else {
    where.push('s.marked = ?');
    values.push(mark);
  }
  if (!mark) {
    const alone = filter.hop === 'clicked' && filter.state === 'unknown';
    where.push(alone ? 's.kind = ?' : countedKinds(way));
    if (alone) values.push(waysIn[way].alone);
  }
  const narrowed = [...(segment ? [ofSegment('f.strand_id', businessId, segment, way)] : []), cameWith('s', tags)];
  for (const one of narrowed) {
    where.push(one.sql);
    values.push(...one.values);
  }
  if (finding) {
    const [found, foundValues] = findingCondition(businessId, finding, seesPeople);
    where.push(`(${found})`);
    values.push(...foundValues);
  }
  return {
    from: 'FROM standings f JOIN strands s ON s.business_id = f.business_id AND s.id = f.strand_id',
    where: where.join(' AND '),
    values,
    joins: finding ? withEnquiry : '',
  };
}

/** Which strands of a period, on which way in, and what they are narrowed to. */
export type StrandFilter = StrandListQuery & {
  way: WayInKind;
  view: LineViewKind;
} & Narrowing;

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
  filter: StrandFilter,
  finding: LeadFinding | null,
  seesPeople: boolean,
  { limit, offset = 0, after = null }: Part,
): Promise<string[]> {
  const { from, where, values, joins } = conditionOf(businessId, period, filter, finding, seesPeople);
  const byCompany = filter.sort === 'company' && seesPeople;
  const column = { first_at: 'f.first_at', campaign: 's.campaign', company: byCompany ? 'l.company' : 'f.first_at' };
  // Rows of one moment go in the same direction, as the index has them.
  const direction = filter.descending === 'yes' ? 'DESC' : 'ASC';
  const rows = await selectRows(
    db,
    { id: uuid().of('f.strand_id') },
    `${from} ${joins || (byCompany ? withEnquiry : '')}
     WHERE ${where} ${after ? 'AND (f.first_at < ? OR (f.first_at = ? AND f.strand_id < ?))' : ''}
     ORDER BY ${column[filter.sort]} ${direction}, f.strand_id ${direction} LIMIT ? OFFSET ?`,
    [...values, ...(after ? [after.at, after.at, after.id] : []), limit, offset],
  );
  return rows.map(({ id }) => id);
}

/** Strands with the newest enquiry of each and their standing on a way in, in the order of their IDs as given. */
export async function readStrands(
  db: Sequelize,
  businessId: string,
  ids: string[],
  way: WayInKind,
): Promise<StrandQueryRow[]> {
  if (ids.length === 0) return [];
  const rows = await selectRows(
    db,
    listed,
    `FROM strands s ${standingJoins(way)} ${withEnquiry} WHERE s.business_id = ? AND s.id IN (?)`,
    [businessId, ids],
  );
  return inOrderOf(ids, rows);
}

/** How many strands a list has. */
export async function countStrands(
  db: Sequelize,
  businessId: string,
  period: Period,
  filter: StrandFilter,
  finding: LeadFinding | null,
  seesPeople: boolean,
): Promise<number> {
  const { from, where, values, joins } = conditionOf(businessId, period, filter, finding, seesPeople);
  const { total } = await selectOne(db, { total: whole().of('COUNT(*)') }, `${from} ${joins} WHERE ${where}`, values);
  return total;
}

import type { Sequelize } from 'sequelize';
import { type Read, orNull, pick, selectOne, selectRows, text, uuid, whole } from '../db';
import type { LeadListQuery } from '../../core/leads';
import type { TagNarrowing } from '../../core/strands';
import { inOrderOf, type Part } from '../lists';
import type { SegmentNarrowing } from './segments/segments';
import { findingCondition, type LeadFinding } from './find';
import { deals, enquiries, leads, type EnquiryRow } from './table';
import { strandCameWith } from '../strands/narrowing';
import { isLost, standing, standingJoins } from '../strands/standing';
import { strands } from '../strands/table';
import { touches } from '../capture/table';

/** What a list of enquiries shows of each, from the tables by the aliases of `listEnquiries`. */
const listed = {
  ...pick(
    enquiries,
    ['id', 'form', 'sentAt', 'stage', 'strandId', 'wayIn', 'quality', 'qualityReason', 'answeredAt', 'erasedAt'],
    'e',
  ),
  crmDeal: deals.columns.number.of('d.number').nullable(),
  ...orNull(pick(leads, ['name', 'company'], 'l')),
  ...orNull(pick(touches, ['source', 'medium', 'referrer'], 't')),
  ...orNull(pick(strands, ['kind', 'clickId', 'campaign'], 's')),
  /** How far its strand came as an enquiry. */
  ...standing,
};
export type LeadQueryRow = Read<typeof listed>;

const columns = { sentAt: 'e.sent_at', company: 'l.company' };
const withStrand = 'LEFT JOIN strands s ON s.business_id = e.business_id AND s.id = e.strand_id';
/** As the way in that each enquiry came by has it. */
const withStanding = `${withStrand} ${standingJoins('own')}`;
const withLead = 'LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id';
const withDeal = 'LEFT JOIN deals d ON d.business_id = e.business_id AND d.id = e.deal_id';
const withTouch = 'LEFT JOIN touches t ON t.business_id = e.business_id AND t.id = e.touch_id';

/** What a list holds: a condition over `enquiries e` with its values, and the tables that it looks into. */
function conditionOf(
  businessId: string,
  finding: LeadFinding | null,
  seesPeople: boolean,
  { wayIn = '', quality = '', segment = null, tags = null }: LeadNarrowing,
) {
  const isAny = quality === 'any' || (quality === '' && segment?.meansNoEnquiry);
  const ofQuality = isAny ? '' : quality ? 'AND e.quality = ?' : "AND e.quality <> 'no_enquiry'";
  const [within, withinValues] = segment?.where ?? ['', []];
  const cameBy = strandCameWith('e.strand_id', businessId, tags);
  const base = `e.business_id = ? AND e.marked = '' ${ofQuality} ${wayIn ? 'AND e.way_in = ?' : ''}
    ${within && `AND ${within}`} AND ${cameBy.sql}`;
  const own = [
    businessId,
    ...(quality && quality !== 'any' ? [quality] : []),
    ...(wayIn ? [wayIn] : []),
    ...withinValues,
    ...cameBy.values,
  ];
  if (!finding) return { where: base, values: own, joins: '' };
  const [where, values] = findingCondition(businessId, finding, seesPeople);
  return { where: `${base} AND (${where})`, values: [...own, ...values], joins: withStrand };
}

/** Enquiries of one way in alone, of a segment, platform or campaign alone, or answered so far alone; without `quality` all but what was no enquiry. */
export interface LeadNarrowing {
  segment?: SegmentNarrowing | null;
  tags?: TagNarrowing | null;
  wayIn?: EnquiryRow['wayIn'] | '';
  quality?: LeadListQuery['quality'] | 'any';
}

/** The order of a list of enquiries. @param stages of the CRM, in theirs */
export type LeadOrder = Pick<LeadListQuery, 'sort' | 'descending'> & { stages?: string[] };

/**
 * IDs of the enquiries of a list, in its order: sorted by what it is sorted by alone, so that only the rows that are
 * shown are read whole.
 *
 * @param finding what is looked for, null for all
 * @param seesPeople false: nothing is sorted or found by who somebody is
 */
export async function findEnquiries(
  db: Sequelize,
  businessId: string,
  query: LeadOrder,
  finding: LeadFinding | null,
  seesPeople: boolean,
  { limit, offset = 0, after = null }: Part,
  narrowing: LeadNarrowing = {},
): Promise<string[]> {
  const { where, values, joins } = conditionOf(businessId, finding, seesPeople, narrowing);
  const wanted = !seesPeople && query.sort === 'company' ? 'sentAt' : query.sort;
  // Stages in the order of the pipeline; one that is in none of it comes first.
  const { stages = [] } = query;
  const sort = wanted !== 'stage' ? columns[wanted] : stages.length > 0 ? 'FIELD(e.stage, ?)' : 'e.stage';
  // Rows of one moment go in the same direction, as the index has them.
  const direction = query.descending === 'yes' ? 'DESC' : 'ASC';
  const rows = await selectRows(
    db,
    { id: uuid().of('e.id') },
    `FROM enquiries e ${joins} ${sort === columns.company ? withLead : ''}
     WHERE ${where} ${after ? 'AND (e.sent_at < ? OR (e.sent_at = ? AND e.id < ?))' : ''}
     ORDER BY ${sort} ${direction}, e.id ${direction} LIMIT ? OFFSET ?`,
    [
      ...values,
      ...(after ? [after.at, after.at, after.id] : []),
      ...(sort === 'FIELD(e.stage, ?)' ? [stages] : []),
      ...[limit, offset],
    ],
  );
  return rows.map(({ id }) => id);
}

/** Enquiries with their lead and how far their strand came, in the order of their IDs as given. */
export async function readEnquiries(db: Sequelize, businessId: string, ids: string[]): Promise<LeadQueryRow[]> {
  if (ids.length === 0) return [];
  const rows = await selectRows(
    db,
    listed,
    `FROM enquiries e ${withLead} ${withDeal} ${withStanding} ${withTouch} WHERE e.business_id = ? AND e.id IN (?)`,
    [businessId, ids],
  );
  return inOrderOf(ids, rows);
}

/** How many enquiries a list has, and how many of them lost their value on the way. */
export async function countEnquiries(
  db: Sequelize,
  businessId: string,
  finding: LeadFinding | null,
  seesPeople: boolean,
  narrowing: LeadNarrowing,
): Promise<{ total: number; lost: number }> {
  const { where, values, joins } = conditionOf(businessId, finding, seesPeople, narrowing);
  return selectOne(
    db,
    { total: whole().of('COUNT(*)'), lost: whole().of(`COALESCE(SUM(${isLost}), 0)`) },
    `FROM enquiries e ${joins ? `${joins} ${standingJoins('own')}` : withStanding} WHERE ${where}`,
    values,
  );
}

/** How many enquiries a segment has, and of how many people. */
export async function countPeople(
  db: Sequelize,
  businessId: string,
  segment: SegmentNarrowing,
): Promise<{ enquiries: number; people: number }> {
  const { where, values } = conditionOf(businessId, null, true, { segment });
  return selectOne(
    db,
    {
      enquiries: whole().of('COUNT(*)'),
      people: whole().of('COUNT(DISTINCT COALESCE(l.person_id, e.visitor_id, e.id))'),
    },
    `FROM enquiries e ${withLead} WHERE ${where}`,
    values,
  );
}

/** Names of fields or amounts that the newest records of the CRM have, by the alphabet. */
export async function readRecordNames(db: Sequelize, businessId: string, of: 'fields' | 'amounts'): Promise<string[]> {
  const rows = await selectRows(
    db,
    { names: text().nullable().of(`JSON_KEYS(record, '$.${of}')`) },
    'FROM deals WHERE business_id = ? ORDER BY made_at DESC LIMIT 200',
    [businessId],
  );
  return [...new Set(rows.flatMap(({ names }) => (names ? (JSON.parse(names) as string[]) : [])))].sort();
}

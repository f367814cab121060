import type { Sequelize } from 'sequelize';
import { touches, visits } from '../capture/table';
import { likeText, orNull, pick, selectOne, selectRows, text, uuid, whole, type Read } from '../db';
import type { Part } from '../lists';
import type { VisitsQuery } from '../../core/results/visits-view';
import type { OriginColumn } from './queries';

/* Visits one by one, which the models cannot join with what brought them. */

/** What of visits is wanted. */
export interface VisitFilter {
  /** When they began; null for whenever. */
  span: readonly [Date, Date] | null;
  lead: VisitsQuery['lead'];
  isEveryone: boolean;
  browser: string;
  /** Only those whose browser was on none of the days from this one on before; '' for all. */
  firstSince: string;
  find: string;
  /** Only those that came with one of some values, or with none of a touch; null for all. */
  origins: { columns: readonly Exclude<OriginColumn, 'day'>[]; values: string[][]; isDirect: boolean } | null;
}

const listed = {
  ...pick(visits, ['id', 'visitorId', 'startedAt', 'endedAt', 'pages', 'touchId', 'browser', 'marked'], 'v'),
  ...orNull(pick(touches, ['source', 'medium', 'campaign', 'content', 'term', 'platform', 'clickId', 'landing'], 't')),
  referrerHost: text().nullable().of("SUBSTRING_INDEX(t.referrer, '/', 1)"),
};
export type VisitQueryRow = Read<typeof listed>;

const enquired = `EXISTS (SELECT 1 FROM enquiries e WHERE e.business_id = v.business_id AND e.visitor_id = v.visitor_id
  AND e.sent_at BETWEEN v.started_at AND v.ended_at)`;

const columnOf: Record<Exclude<OriginColumn, 'day'>, string> = {
  source: 't.source',
  medium: 't.medium',
  campaign: 't.campaign',
  content: 't.content',
  term: 't.term',
  platform: 't.platform',
  referrer_host: "SUBSTRING_INDEX(t.referrer, '/', 1)",
  landing: 't.landing',
};

function conditionOf(businessId: string, filter: VisitFilter): { sql: string; values: unknown[] } {
  const where = ['v.business_id = ?'];
  const values: unknown[] = [businessId];
  const add = (sql: string, ...given: unknown[]) => {
    where.push(sql);
    values.push(...given);
  };
  const { span, lead, isEveryone, browser, firstSince, find, origins } = filter;
  if (browser !== '') add('v.visitor_id = ?', browser);
  if (span) add('v.started_at >= ? AND v.started_at < ?', ...span);
  if (!isEveryone) add("v.marked = ''");
  if (firstSince !== '') add('(v.previous_on IS NULL OR v.previous_on < ?)', firstSince);
  if (lead !== 'any') add(lead === 'with' ? enquired : `NOT ${enquired}`);
  if (find !== '') {
    const columns = ['t.source', 't.medium', 't.campaign', 't.content', 't.term', 't.landing', 't.referrer'];
    add(`(${columns.map((column) => `${column} LIKE ?`).join(' OR ')})`, ...columns.map(() => likeText(find)));
  }
  if (origins) {
    const direct = origins.isDirect ? ['v.touch_id IS NULL'] : [];
    const named =
      origins.values.length > 0 ? [`(${origins.columns.map((one) => columnOf[one]).join(', ')}) IN (?)`] : [];
    const all = [...direct, ...named];
    add(all.length > 0 ? `(${all.join(' OR ')})` : 'FALSE', ...(named.length > 0 ? [origins.values] : []));
  }
  return { sql: where.join(' AND '), values };
}

const joined = 'visits v LEFT JOIN touches t ON t.business_id = v.business_id AND t.id = v.touch_id';

/** One part of the list, in its order. */
export function readVisitList(
  db: Sequelize,
  businessId: string,
  filter: VisitFilter,
  { sort, descending }: Pick<VisitsQuery, 'sort' | 'descending'>,
  { limit, offset = 0 }: Part,
): Promise<VisitQueryRow[]> {
  const { sql, values } = conditionOf(businessId, filter);
  const direction = descending === 'yes' ? 'DESC' : 'ASC';
  const by = { at: 'v.started_at', pages: 'v.pages', length: 'TIMESTAMPDIFF(SECOND, v.started_at, v.ended_at)' }[sort];
  return selectRows(
    db,
    listed,
    `FROM ${joined} WHERE ${sql} ORDER BY ${by} ${direction}, v.id ${direction} LIMIT ? OFFSET ?`,
    [...values, limit, offset],
  );
}

/** How many there are. */
export async function countVisits(db: Sequelize, businessId: string, filter: VisitFilter): Promise<number> {
  const { sql, values } = conditionOf(businessId, filter);
  const from = filter.find !== '' || filter.origins ? joined : 'visits v';
  return (await selectOne(db, { visits: whole().of('COUNT(*)') }, `FROM ${from} WHERE ${sql}`, values)).visits;
}

/** The newest enquiry that was sent in each of some visits. */
export const readEnquiriesIn = (db: Sequelize, businessId: string, ids: string[]) =>
  selectRows(
    db,
    {
      visitId: uuid().of('v.id'),
      enquiryId: uuid().of('e.id'),
      wayIn: text().of('e.way_in'),
      name: text().nullable().of('l.name'),
      company: text().nullable().of('l.company'),
    },
    `FROM visits v JOIN enquiries e ON e.business_id = v.business_id AND e.visitor_id = v.visitor_id
       AND e.sent_at BETWEEN v.started_at AND v.ended_at
     LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id
     WHERE v.business_id = ? AND v.id IN (?) ORDER BY e.sent_at`,
    [businessId, ids],
  );

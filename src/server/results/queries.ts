import type { Sequelize } from 'sequelize';
import type { Dimension } from '../../core/results/dimensions';
import { valuesSql } from './touch-values';
import { bigint, msOf, pick, selectRows, text, uuid, whole, yes, type Read } from '../db';
import { touches } from '../capture/table';
import type { Compiled } from '../leads/segments/condition-sql';
import { outcomes } from '../outcomes/table';
import { visitDays } from '../rollups/table';
import type { DaySpan } from '../strands/range';

/* What figures are made of. Joining and grouping that the models cannot say; read in the pool. */

/** Enquiries `e` of everyone who is a customer and enquired. */
const counted = `e.marked = '' AND e.quality <> 'no_enquiry'`;
const within = (segment: Compiled | null) => (segment ? `AND ${segment[0]}` : '');

/** What an enquiry is credited by: when (ms) no touch counts any more, and by whom its touches are found. */
const ofEnquiry = {
  until: msOf('e.sent_at'),
  touchId: uuid().nullable().of('e.touch_id'),
  visitorId: uuid().nullable().of('e.visitor_id'),
  personId: uuid().nullable().of('l.person_id'),
};
const lead = 'LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id';
export type FollowedRow = { id: string } & Read<typeof ofEnquiry>;

/** Enquiries that came in within some time. @param segment over `enquiries e`; null for everyone */
export const readEnquired = (
  db: Sequelize,
  businessId: string,
  [from, to]: readonly [Date, Date],
  segment: Compiled | null,
): Promise<FollowedRow[]> =>
  selectRows(
    db,
    { id: uuid().of('e.id'), ...ofEnquiry },
    `FROM enquiries e ${lead} WHERE e.business_id = ? AND e.sent_at >= ? AND e.sent_at < ? AND ${counted} ${within(segment)}`,
    [businessId, from, to, ...(segment?.[1] ?? [])],
  );

const outcome = {
  ...pick(outcomes, ['id', 'code', 'subjectKind', 'subjectId', 'currency'], 'o'),
  happenedAt: msOf('o.happened_at'),
  amountMinor: bigint().of('o.amount_minor'),
  worthMinor: bigint().of('o.worth_minor'),
  correctedMinor: bigint().nullable().of('o.corrected_minor'),
  isTakenBack: yes().of("o.worth_change = 'taken_back'"),
  isExpected: yes().of('o.win_rate_won IS NOT NULL'),
};
const happened = 'o.business_id = ? AND o.code IN (?) AND o.happened_at >= ? AND o.happened_at < ?';
export type ReachedRow = FollowedRow & Read<typeof outcome> & { isFirstWon: boolean };

/**
 * Outcomes that were reached within some time, with what their touches are found by.
 *
 * @param winning codes of those that win something
 */
export async function readReached(
  db: Sequelize,
  businessId: string,
  codes: string[],
  winning: string[],
  [from, to]: readonly [Date, Date],
  segment: Compiled | null,
): Promise<ReachedRow[]> {
  if (codes.length === 0) return [];
  const values = [businessId, codes, from, to];
  const first = `NOT EXISTS (SELECT 1 FROM outcomes p WHERE p.business_id = o.business_id AND p.subject_id = o.subject_id
    AND p.code IN (?) AND p.id <> o.id AND p.worth_change <> 'taken_back'
    AND (p.happened_at < o.happened_at OR p.happened_at = o.happened_at AND p.code < o.code))`;
  const ofEnquiries = selectRows(
    db,
    { ...outcome, ...ofEnquiry, isFirstWon: yes().of(winning.length > 0 ? first : 'FALSE') },
    `FROM outcomes o JOIN enquiries e ON e.business_id = o.business_id AND e.id = o.subject_id ${lead}
     WHERE ${happened} AND o.subject_kind = 'enquiry' AND ${counted} ${within(segment)}`,
    [...(winning.length > 0 ? [winning] : []), ...values, ...(segment?.[1] ?? [])],
  );
  // What is bought is of no segment.
  if (segment) return ofEnquiries;
  const bought = (subject: string, from: string, visitor: string, condition: string) =>
    selectRows(
      db,
      {
        ...outcome,
        until: msOf('o.happened_at'),
        touchId: ofEnquiry.touchId.of('NULL'),
        visitorId: ofEnquiry.visitorId.of(visitor),
        personId: ofEnquiry.personId.of('NULL'),
        isFirstWon: yes().of('TRUE'),
      },
      `FROM outcomes o JOIN ${from} WHERE ${happened} AND o.subject_kind = '${subject}' AND ${condition}`,
      values,
    );
  const own = (table: string) => `${table} b ON b.business_id = o.business_id AND b.id = o.subject_id`;
  return (
    await Promise.all([
      ofEnquiries,
      bought('order', own('orders'), 'b.visitor_id', "b.marked = '' AND b.same_as = ''"),
      bought('conversion', own('conversions'), 'b.visitor_id', "b.marked = ''"),
      bought(
        'subscription',
        `${own('subscriptions')} LEFT JOIN sign_ups u ON u.business_id = b.business_id AND u.lead_token = b.lead_token
           AND b.lead_token <> ''`,
        'u.visitor_id',
        "b.marked = ''",
      ),
    ])
  ).flat();
}

/** What steps of ladders are worth now, by subject and code. */
export const readSteps = (db: Sequelize, businessId: string, codes: string[], subjects: string[]) =>
  selectRows(
    db,
    {
      ...pick(outcomes, ['subjectId', 'code', 'currency']),
      worth: bigint().of('COALESCE(corrected_minor, worth_minor)'),
    },
    "FROM outcomes WHERE business_id = ? AND subject_id IN (?) AND code IN (?) AND worth_change <> 'taken_back'",
    [businessId, subjects, codes],
  );

/** The browsers of people, by all of their enquiries. */
export const readBrowsers = (db: Sequelize, businessId: string, people: string[]) =>
  selectRows(
    db,
    { personId: uuid().of('l.person_id'), visitorId: uuid().of('e.visitor_id') },
    `FROM leads l JOIN enquiries e ON e.business_id = l.business_id AND e.lead_id = l.id AND e.visitor_id IS NOT NULL
     WHERE l.business_id = ? AND l.person_id IN (?) GROUP BY l.person_id, e.visitor_id`,
    [businessId, people],
  );

/** The columns of what something came by that each dimension is read from. */
const columnsOf = {
  channel: ['source', 'medium', 'referrer_host'],
  source: ['source'],
  medium: ['medium'],
  campaign: ['campaign'],
  stage: ['campaign'],
  content: ['content'],
  term: ['term'],
  platform: ['platform', 'source'],
  referrer: ['referrer_host'],
  landing: ['landing'],
  day: ['day'],
  week: ['day'],
  month: ['day'],
  quarter: ['day'],
} as const;
export type OriginColumn = (typeof columnsOf)[keyof typeof columnsOf][number];
export const columnsFor = (by: readonly Dimension[]): OriginColumn[] => [
  ...new Set(by.flatMap((dimension): readonly OriginColumn[] => columnsOf[dimension])),
];

/**
 * Touches of some browsers, or with some IDs: all of a browser in one row, a line each, with its ID, its moment (ms), and
 * what it came with as a JSON list. So that a million of them are read in a fourth of the rows, and what they came with is
 * taken apart once for all that are alike.
 *
 * @param columns of what they came with that are needed
 */
export const readTouches = (
  db: Sequelize,
  businessId: string,
  by: 'visitor_id' | 'id',
  ids: string[],
  columns: readonly Exclude<OriginColumn, 'day'>[],
) =>
  selectRows(
    db,
    {
      ...pick(touches, ['visitorId']),
      touches: text().of(`GROUP_CONCAT(id, ' ', ${msOf('at').sql}, ' ',
        ${valuesSql(columns)} SEPARATOR '\n')`),
    },
    `FROM touches WHERE business_id = ? AND ${by} IN (?) GROUP BY visitor_id`,
    [businessId, ids],
  );

/** What sums by day say of where something came from; '' for what is not needed. */
export function originColumns(columns: readonly OriginColumn[]) {
  const read = (name: OriginColumn) => text().of(columns.includes(name) ? name : "''");
  return {
    source: read('source'),
    medium: read('medium'),
    campaign: read('campaign'),
    content: read('content'),
    term: read('term'),
    platform: read('platform'),
    referrerHost: read('referrer_host'),
    landing: read('landing'),
    day: text().of(columns.includes('day') ? 'CAST(day AS CHAR)' : "''"),
  };
}

/** Visits of some days by what they came by, and how many of them were the first of their browsers in these days. */
export async function readVisits(
  db: Sequelize,
  businessId: string,
  { firstDay, lastDay }: DaySpan,
  columns: readonly OriginColumn[],
) {
  return selectRows(
    db,
    {
      ...originColumns(columns),
      direct: visitDays.columns.direct,
      visits: whole().of('SUM(visits)'),
      visitors: whole().of('SUM(IF(previous_on IS NULL OR previous_on < ?, visits, 0))'),
    },
    `FROM visit_days WHERE business_id = ? AND zone = '' AND day BETWEEN ? AND ?
     GROUP BY ${['direct', ...columns].join(', ')}`,
    [firstDay, businessId, firstDay, lastDay],
  );
}

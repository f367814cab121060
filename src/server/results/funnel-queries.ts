import type { Sequelize } from 'sequelize';
import { bigint, msOf, selectRows, text, uuid, yes } from '../db';
import type { Compiled } from '../leads/segments/condition-sql';
import type { OriginColumn } from './queries';
import { valuesSql } from './touch-values';

/* What funnels are walked by: things that browsers did, in the order of time. Read in the pool, some days at a time. */

const did = { visitorId: uuid(), at: msOf('at'), name: text() };

/** Pages that browsers opened. @param pages null for all of them */
export const readOpened = (
  db: Sequelize,
  businessId: string,
  [from, to]: readonly [Date, Date],
  pages: readonly string[] | null,
) =>
  selectRows(
    db,
    { ...did, name: text().of('page') },
    // The index has all of it; by any other, each hit would be read by itself.
    `FROM hits FORCE INDEX (by_time) WHERE business_id = ? AND at >= ? AND at < ? AND kind = 'arrived'
     ${pages ? 'AND page IN (?)' : ''}`,
    [businessId, from, to, ...(pages ? [pages] : [])],
  );

/** The same of a few browsers. */
export const readOpenedBy = (
  db: Sequelize,
  businessId: string,
  [from, to]: readonly [Date, Date],
  visitors: readonly string[],
) =>
  selectRows(
    db,
    { ...did, name: text().of('page') },
    `FROM hits FORCE INDEX (by_visitor) WHERE business_id = ? AND visitor_id IN (?) AND at >= ? AND at < ?
     AND kind = 'arrived'`,
    [businessId, visitors, from, to],
  );

export const readWentOff = (db: Sequelize, businessId: string, [from, to]: readonly [Date, Date], names: string[]) =>
  selectRows(db, did, "FROM events WHERE business_id = ? AND name IN (?) AND at >= ? AND at < ? AND marked = ''", [
    businessId,
    names,
    from,
    to,
  ]);

export const readSent = (db: Sequelize, businessId: string, [from, to]: readonly [Date, Date], forms: string[]) =>
  selectRows(
    db,
    { ...did, at: msOf('sent_at'), name: text().of('form') },
    `FROM enquiries WHERE business_id = ? AND form IN (?) AND sent_at >= ? AND sent_at < ? AND marked = ''
     AND visitor_id IS NOT NULL`,
    [businessId, forms, from, to],
  );

/** Outcomes that browsers' enquiries, orders and conversions reached. */
export async function readReachedBy(
  db: Sequelize,
  businessId: string,
  [from, to]: readonly [Date, Date],
  codes: readonly string[],
) {
  if (codes.length === 0) return [];
  const subjects = [
    ['enquiry', 'enquiries'],
    ['order', 'orders'],
    ['conversion', 'conversions'],
  ] as const;
  const found = await Promise.all(
    subjects.map(([kind, table]) =>
      selectRows(
        db,
        {
          visitorId: uuid().of('b.visitor_id'),
          at: msOf('o.happened_at'),
          name: text().of('o.code'),
          currency: text().of('o.currency'),
          worth: bigint().of('COALESCE(o.corrected_minor, o.worth_minor)'),
          isRealised: yes().of("o.win_rate_won IS NULL AND o.worth_change <> 'taken_back'"),
        },
        `FROM outcomes o JOIN ${table} b ON b.business_id = o.business_id AND b.id = o.subject_id
         WHERE o.business_id = ? AND o.code IN (?) AND o.happened_at >= ? AND o.happened_at < ?
           AND o.subject_kind = '${kind}' AND b.marked = '' AND b.visitor_id IS NOT NULL`,
        [businessId, codes, from, to],
      ),
    ),
  );
  return found.flat();
}

/**
 * Visits of customers that began within some time, with what brought them.
 *
 * @param columns of that, which are needed: `values` is the list of them, null where a touch is not known or none is needed
 */
export const readVisitsBegun = (
  db: Sequelize,
  businessId: string,
  [from, to]: readonly [Date, Date],
  columns: readonly Exclude<OriginColumn, 'day'>[],
) =>
  selectRows(
    db,
    {
      visitorId: uuid().of('v.visitor_id'),
      from: msOf('v.started_at'),
      to: msOf('v.ended_at'),
      values: text()
        .nullable()
        .of(columns.length === 0 ? 'NULL' : `IF(t.id IS NULL, NULL, CONCAT(${valuesSql(columns, 't')}, ''))`),
    },
    `FROM visits v ${columns.length === 0 ? '' : 'LEFT JOIN touches t ON t.business_id = v.business_id AND t.id = v.touch_id'}
     WHERE v.business_id = ? AND v.started_at >= ? AND v.started_at < ? AND v.marked = ''`,
    [businessId, from, to],
  );

/** Browsers that enquiries of a segment came from. */
export const readVisitorsOf = async (db: Sequelize, businessId: string, [condition, values]: Compiled) =>
  new Set(
    (
      await selectRows(
        db,
        { visitorId: uuid().of('e.visitor_id') },
        `FROM enquiries e WHERE e.business_id = ? AND e.visitor_id IS NOT NULL AND ${condition} GROUP BY e.visitor_id`,
        [businessId, ...values],
      )
    ).map(({ visitorId }) => visitorId),
  );

import type { Sequelize, Transaction } from 'sequelize';
import type { QueueListQuery } from '../../core/reportbacks/queue-schema';
import { likeText, orNull, pick, selectOne, selectRows, text, whole, type Read } from '../db';
import { enquiries, leads } from '../leads/table';
import { inOrderOf, type Part } from '../lists';
import { orders } from '../orders/table';
import { outcomes } from '../outcomes/table';
import { reportBacks } from './table';

/* The queue: report-backs with the outcome they tell and whose it is, which the models cannot join. */

const joins = `JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id
  LEFT JOIN report_backs f ON r.correction > 0 AND f.business_id = r.business_id AND f.outcome_id = r.outcome_id
    AND f.account = r.account AND f.correction = 0
  LEFT JOIN enquiries e ON r.subject_kind = 'enquiry' AND e.business_id = r.business_id AND e.id = r.subject_id
  LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id
  LEFT JOIN orders n ON r.subject_kind = 'order' AND n.business_id = r.business_id AND n.id = r.subject_id
  LEFT JOIN subscriptions u ON r.subject_kind = 'subscription' AND u.business_id = r.business_id AND u.id = r.subject_id
  LEFT JOIN conversions c ON r.subject_kind = 'conversion' AND c.business_id = r.business_id AND c.id = r.subject_id`;

const listed = {
  ...pick(
    reportBacks,
    ['id', 'outcomeId', 'subjectKind', 'subjectId', 'account', 'platform', 'toldAs', 'state', 'reason', 'stoppedBy'],
    'r',
  ),
  ...pick(
    reportBacks,
    [
      'correction',
      'keyKind',
      'keyValue',
      'tellsMinor',
      'toldMinor',
      'dueAt',
      'answeredAt',
      'bookedOn',
      'confirmedAt',
      'madeAt',
    ],
    'r',
  ),
  ...pick(outcomes, ['code', 'version', 'happenedAt', 'worthMinor', 'correctedMinor', 'currency'], 'o'),
  /** The worth that the platform has what a correction is of. */
  hasMinor: reportBacks.columns.toldMinor.of('f.told_minor'),
  ...orNull(pick(enquiries, ['wayIn', 'erasedAt'], 'e')),
  ...orNull(pick(leads, ['name', 'company'], 'l')),
  /** Of what was bought or done: an order, a subscription, a conversion. */
  boughtNumber: orders.columns.number.of("COALESCE(n.number, u.number, NULLIF(c.order_id, ''), c.name)").nullable(),
  boughtStrands: orders.columns.strands.of('COALESCE(n.strands, u.strands, c.strands)').nullable(),
};
export type QueueQueryRow = Read<typeof listed>;

/** What a list of the queue holds. */
export type QueueFilter = Pick<QueueListQuery, 'find' | 'state' | 'outcome' | 'account' | 'reason'>;

function conditionOf(businessId: string, filter: QueueFilter, seesPeople: boolean) {
  const where = ['r.business_id = ?'];
  const values: unknown[] = [businessId];
  const add = (sql: string, ...given: unknown[]) => {
    where.push(sql);
    values.push(...given);
  };
  if (filter.state) add('r.state = ?', filter.state);
  if (filter.account) add('r.account = ?', filter.account);
  if (filter.reason) add("JSON_VALUE(r.reason, '$.code') = ?", filter.reason);
  if (filter.outcome) add('o.code = ?', filter.outcome);
  if (filter.find) {
    const like = likeText(filter.find);
    const byName = seesPeople ? 'OR l.company LIKE ? OR l.name LIKE ?' : '';
    add(
      `(r.key_value LIKE ? OR n.number LIKE ? OR u.number LIKE ? OR c.order_id LIKE ? ${byName})`,
      like,
      like,
      like,
      like,
      ...(seesPeople ? [like, like] : []),
    );
  }
  // Only what is asked for is joined: counting a hundred thousand needs their outcomes alone.
  const needed = filter.find ? joins : filter.outcome ? joins.split('\n')[0]! : '';
  return { where: where.join(' AND '), values, needed };
}

const columns: Record<QueueListQuery['sort'], string> = {
  madeAt: 'r.made_at',
  happenedAt: 'o.happened_at',
  dueAt: 'r.due_at',
  worth: 'o.worth_minor',
};

/** IDs of report-backs of a list, in its order. */
export async function findQueue(
  db: Sequelize,
  businessId: string,
  query: QueueFilter & Pick<QueueListQuery, 'sort' | 'descending'>,
  seesPeople: boolean,
  { limit, offset = 0 }: Part,
): Promise<string[]> {
  const { where, values, needed } = conditionOf(businessId, query, seesPeople);
  const sorts = columns[query.sort];
  const tables = needed || (sorts.startsWith('o.') ? joins.split('\n')[0]! : '');
  const direction = query.descending === 'yes' ? 'DESC' : 'ASC';
  const rows = await selectRows(
    db,
    pick(reportBacks, ['id'], 'r'),
    `FROM report_backs r ${tables} WHERE ${where} ORDER BY ${sorts} ${direction}, r.id LIMIT ? OFFSET ?`,
    [...values, limit, offset],
  );
  return rows.map(({ id }) => id);
}

export async function countQueue(
  db: Sequelize,
  businessId: string,
  filter: QueueFilter,
  seesPeople: boolean,
): Promise<number> {
  const { where, values, needed } = conditionOf(businessId, filter, seesPeople);
  const { n } = await selectOne(
    db,
    { n: whole().of('COUNT(*)') },
    `FROM report_backs r ${needed} WHERE ${where}`,
    values,
  );
  return n;
}

/** Report-backs with what they tell and whose it is, in the order of their IDs as given. */
export async function readQueue(db: Sequelize, businessId: string, ids: string[]): Promise<QueueQueryRow[]> {
  if (ids.length === 0) return [];
  const rows = await selectRows(db, listed, `FROM report_backs r ${joins} WHERE r.business_id = ? AND r.id IN (?)`, [
    businessId,
    ids,
  ]);
  return inOrderOf(ids, rows);
}

/** How many report-backs there are of each state. */
export async function countStates(db: Sequelize, businessId: string) {
  return selectRows(
    db,
    { ...pick(reportBacks, ['state']), n: whole().of('COUNT(*)') },
    'FROM report_backs WHERE business_id = ? GROUP BY state',
    [businessId],
  );
}

/** Why those of some states are where they are: one reason of each kind, and how often. */
export async function countReasons(db: Sequelize, businessId: string) {
  return selectRows(
    db,
    {
      ...pick(reportBacks, ['state']),
      code: text().of("JSON_VALUE(reason, '$.code')"),
      // What stands in it differs from row to row; refusals are told apart by what the platform answered.
      said: text().of("COALESCE(JSON_VALUE(reason, '$.answer'), '')"),
      reason: reportBacks.columns.reason.of('MIN(reason)'),
      n: whole().of('COUNT(*)'),
    },
    `FROM report_backs WHERE business_id = ? AND state IN ('held', 'refused', 'unsure') AND reason IS NOT NULL
     GROUP BY state, code, said ORDER BY n DESC LIMIT 20`,
    [businessId],
  );
}

/** Which of some report-backs their platform is being asked of at this moment. */
export async function readBeingTold(
  db: Sequelize,
  businessId: string,
  ids: string[],
  transaction: Transaction,
): Promise<Set<string>> {
  const rows = await selectRows(
    db,
    { id: reportBacks.columns.id.of('report_back_id') },
    `FROM attempts a WHERE a.business_id = ? AND a.report_back_id IN (?) AND a.status = 'no answer yet'
       AND NOT EXISTS (SELECT 1 FROM attempts b WHERE b.business_id = a.business_id
         AND b.report_back_id = a.report_back_id AND b.started_at > a.started_at)`,
    [businessId, ids],
    transaction,
  );
  return new Set(rows.map(({ id }) => id));
}

/** The outcomes and accounts that report-backs are of. */
export async function readQueueChoices(db: Sequelize, businessId: string) {
  const [codes, accounts] = await Promise.all([
    selectRows(db, pick(outcomes, ['code']), 'FROM outcomes WHERE business_id = ? GROUP BY code ORDER BY code', [
      businessId,
    ]),
    selectRows(
      db,
      pick(reportBacks, ['account', 'platform']),
      'FROM report_backs WHERE business_id = ? GROUP BY account, platform ORDER BY account',
      [businessId],
    ),
  ]);
  return { codes: codes.map(({ code }) => code), accounts };
}

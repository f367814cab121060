import type { Sequelize, Transaction } from 'sequelize';
import { mayBeTaken, type ReportBackState } from '../../core/reportbacks';
import { groupBy } from '../../core/group-by';
import type { Context } from '../context';
import { columnName, pick, plain, selectRows, whole, type Read, type ReportBackRow } from '../db';
import type { Cursor } from '../cursor';
import { outcomes } from '../outcomes/table';
import { reportBacks } from './table';

/** Report-backs, newest first: a keyset over (made_at, id), which a model cannot say. */
export async function listReportBacks(
  db: Sequelize,
  businessId: string,
  filter: { state?: ReportBackState | undefined; platform?: string | undefined },
  limit: number,
  after: Cursor | null,
): Promise<ReportBackRow[]> {
  const where = ['business_id = ?'];
  const values: unknown[] = [businessId];
  for (const column of ['state', 'platform'] as const)
    if (filter[column]) {
      where.push(`${column} = ?`);
      values.push(filter[column]);
    }
  if (after) {
    where.push('(made_at < ? OR (made_at = ? AND id > ?))');
    values.push(after.at, after.at, after.id);
  }
  return selectRows(
    db,
    reportBacks.columns,
    `FROM report_backs WHERE ${where.join(' AND ')} ORDER BY made_at DESC, id LIMIT ?`,
    [...values, limit],
  );
}

const waiting = {
  ...pick(
    reportBacks,
    [
      ...(['businessId', 'id', 'outcomeId', 'correction', 'subjectKind', 'subjectId', 'accountId', 'account'] as const),
      ...(['toldAs', 'keyKind', 'keyValue', 'tellsMinor'] as const),
    ],
    'r',
  ),
  ...pick(
    outcomes,
    [
      ...(['code', 'happenedAt', 'worthMinor', 'correctedMinor', 'currency', 'worthChange', 'changeCause'] as const),
      'releaseNumber',
    ],
    'o',
  ),
};
/** A report-back that waits, with what is told of its outcome. */
export type WaitingRow = Read<typeof waiting>;

/** Those of some report-backs of one business that wait: no more is read than is told, as there may be thousands. */
export const readWaiting = (db: Sequelize, businessId: string, ids: string[]): Promise<WaitingRow[]> =>
  selectRows(
    db,
    waiting,
    `FROM report_backs r JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id
     WHERE r.business_id = ? AND r.id IN (?) AND r.state = 'waiting'`,
    [businessId, ids],
  );

/**
 * Those of some report-backs of one business that still wait, locked until the transaction ends; of each how many attempts
 * there are.
 */
export async function lockWaiting(
  db: Sequelize,
  rows: Pick<ReportBackRow, 'businessId' | 'id'>[],
  transaction: Transaction,
): Promise<Map<string, number>> {
  if (rows.length === 0) return new Map();
  const attempted =
    'FROM attempts a WHERE a.business_id = report_backs.business_id AND a.report_back_id = report_backs.id';
  const locked = await selectRows(
    db,
    { ...pick(reportBacks, ['id']), attempts: whole().of(`(SELECT COUNT(*) ${attempted})`) },
    // By the index of states it would lock what else waits too.
    `FROM report_backs FORCE INDEX (PRIMARY)
     WHERE business_id = ? AND id IN (?) AND state = 'waiting' ORDER BY id FOR UPDATE`,
    [rows[0]!.businessId, rows.map(({ id }) => id)],
    transaction,
  );
  return new Map(locked.map(({ id, attempts }) => [id, attempts]));
}

/** Which of some report-backs of one business may be taken by an attempt that nobody answered. */
export async function readMayBeTaken(
  tables: Context['tables'],
  businessId: string,
  ids: string[],
  transaction: Transaction,
): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await tables.attempts.findAll({
    attributes: ['reportBackId', 'status'],
    where: { businessId, reportBackId: ids },
    order: [['startedAt', 'ASC']],
    transaction,
  });
  const statuses = groupBy(plain(rows), ({ reportBackId }) => reportBackId);
  return new Set(
    [...statuses].filter(([, own]) => mayBeTaken(own.map(({ status }) => status))).map(([reportBack]) => reportBack),
  );
}

/**
 * Changes report-backs that a platform took by attempts, all alike, and keeps the worth that it has of each: that of its
 * attempt, also with what it corrects. By hand: each row takes its own.
 */
export async function keepTaken(
  db: Sequelize,
  businessId: string,
  change: Partial<ReportBackRow>,
  attempts: string[],
  corrects: boolean,
  transaction: Transaction,
): Promise<void> {
  const of = 'a ON a.business_id = r.business_id AND a.report_back_id = r.id AND a.id IN (?)';
  const changes = Object.entries({ ...change, reason: null });
  const set = changes.map(([name]) => `r.${columnName(name)} = ?`).join(', ');
  await db.query(
    `UPDATE report_backs r JOIN attempts ${of} SET ${set}, r.told_minor = a.worth_minor
     WHERE r.business_id = ?`,
    { replacements: [attempts, ...changes.map(([, value]) => value), businessId], transaction },
  );
  if (corrects)
    await db.query(
      `UPDATE report_backs r JOIN attempts ${of}
       JOIN report_backs o ON o.business_id = r.business_id AND o.outcome_id = r.outcome_id AND o.account = r.account
         AND o.correction = 0
       SET o.told_minor = a.worth_minor WHERE r.business_id = ?`,
      { replacements: [attempts, businessId], transaction },
    );
}

/** Keeps the worth of report-backs of which nobody knows whether they were taken: that of their last attempt. */
export const keepSentWorth = (db: Sequelize, businessId: string, ids: string[], transaction: Transaction) =>
  db.query(
    `UPDATE report_backs r SET r.told_minor = (SELECT a.worth_minor FROM attempts a
       WHERE a.business_id = r.business_id AND a.report_back_id = r.id ORDER BY a.started_at DESC LIMIT 1)
     WHERE r.business_id = ? AND r.id IN (?)`,
    { replacements: [businessId, ids], transaction },
  );

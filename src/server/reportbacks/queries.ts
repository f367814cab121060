import type { Sequelize, Transaction } from 'sequelize';
import { mayBeTaken, type ReportBackState } from '../../core/reportbacks';
import { groupBy } from '../../core/group-by';
import type { Context } from '../context';
import { pick, plain, selectRows, whole, type ReportBackRow } from '../db';
import type { Cursor } from '../cursor';
import { attempts, reportBacks } from './table';

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

/** How many attempts there are of each of some report-backs of one business; those without any are left out. */
export async function countAttempts(
  db: Sequelize,
  rows: ReportBackRow[],
  transaction: Transaction,
): Promise<Map<string, number>> {
  if (rows.length === 0) return new Map();
  const counted = await selectRows(
    db,
    { ...pick(attempts, ['reportBackId']), n: whole().of('COUNT(*)') },
    'FROM attempts WHERE business_id = ? AND report_back_id IN (?) GROUP BY report_back_id',
    [rows[0]!.businessId, rows.map(({ id }) => id)],
    transaction,
  );
  return new Map(counted.map(({ reportBackId, n }) => [reportBackId, n]));
}

/** Those of some report-backs of one business that still wait, locked until the transaction ends. */
export async function lockWaiting(
  db: Sequelize,
  rows: ReportBackRow[],
  transaction: Transaction,
): Promise<Set<string>> {
  if (rows.length === 0) return new Set();
  const waiting = await selectRows(
    db,
    pick(reportBacks, ['id']),
    "FROM report_backs WHERE business_id = ? AND id IN (?) AND state = 'waiting' ORDER BY id FOR UPDATE",
    [rows[0]!.businessId, rows.map(({ id }) => id)],
    transaction,
  );
  return new Set(waiting.map(({ id }) => id));
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
 * Keeps the worth that a platform has of report-backs that it took by attempts: that of the attempt, also with what it
 * corrects. By hand: each row takes its own.
 */
export async function keepToldWorth(
  db: Sequelize,
  businessId: string,
  attempts: string[],
  corrects: boolean,
  transaction: Transaction,
): Promise<void> {
  const of = 'a ON a.business_id = r.business_id AND a.report_back_id = r.id AND a.id IN (?)';
  const options = { replacements: [attempts, businessId], transaction };
  await db.query(
    `UPDATE report_backs r JOIN attempts ${of} SET r.told_minor = a.worth_minor WHERE r.business_id = ?`,
    options,
  );
  if (corrects)
    await db.query(
      `UPDATE report_backs r JOIN attempts ${of}
       JOIN report_backs o ON o.business_id = r.business_id AND o.outcome_id = r.outcome_id AND o.account = r.account
         AND o.correction = 0
       SET o.told_minor = a.worth_minor WHERE r.business_id = ?`,
      options,
    );
}

/** The same for report-backs of which nobody knows whether they were taken: the worth of their last attempt. */
export const keepSentWorth = (db: Sequelize, businessId: string, ids: string[], transaction: Transaction) =>
  db.query(
    `UPDATE report_backs r SET r.told_minor = (SELECT a.worth_minor FROM attempts a
       WHERE a.business_id = r.business_id AND a.report_back_id = r.id ORDER BY a.started_at DESC LIMIT 1)
     WHERE r.business_id = ? AND r.id IN (?)`,
    { replacements: [businessId, ids], transaction },
  );

import type { Sequelize, Transaction } from 'sequelize';
import type { ReportBackState } from '../../core/reportbacks';
import { pick, selectRows, whole, type ReportBackRow } from '../db';
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

import type { Sequelize, Transaction } from 'sequelize';
import { selectRows, whole, type OutcomeRow } from '../db';
import type { Cursor } from '../cursor';
import { outcomes } from './table';

/** The highest version that anything was counted by, by the outcome's code. */
export async function readVersions(
  db: Sequelize,
  businessId: string,
  transaction: Transaction,
): Promise<Map<string, number>> {
  const rows = await selectRows(
    db,
    { code: outcomes.columns.code, version: whole().of('MAX(version)') },
    'FROM outcomes WHERE business_id = ? GROUP BY code',
    [businessId],
    transaction,
  );
  return new Map(rows.map(({ code, version }) => [code, version]));
}

/** Counted outcomes, newest first: a keyset over (counted_at, id), which a model cannot say. */
export async function listOutcomes(
  db: Sequelize,
  businessId: string,
  filter: { code?: string | undefined },
  limit: number,
  after: Cursor | null,
): Promise<OutcomeRow[]> {
  const where = ['business_id = ?'];
  const values: unknown[] = [businessId];
  if (filter.code) {
    where.push('code = ?');
    values.push(filter.code);
  }
  if (after) {
    where.push('(counted_at < ? OR (counted_at = ? AND id > ?))');
    values.push(after.at, after.at, after.id);
  }
  return selectRows(
    db,
    outcomes.columns,
    `FROM outcomes WHERE ${where.join(' AND ')} ORDER BY counted_at DESC, id LIMIT ?`,
    [...values, limit],
  );
}

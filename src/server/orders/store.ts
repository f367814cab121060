import type { Transaction } from 'sequelize';
import type { DerivedOrder } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, markWork, plain } from '../db';
import { ofFirstTellers } from '../strands/first-tellers';

/**
 * Stores the orders that visitors' pages said, in place of what was known of them, and has them followed. One that another
 * browser said earlier stays that browser's.
 *
 * @returns IDs of those that are these visitors'
 */
export async function storeOrders(
  { db, tables }: Pick<Context, 'db' | 'tables'>,
  businessId: string,
  derived: (DerivedOrder & { visitorId: string })[],
  transaction: Transaction,
): Promise<string[]> {
  if (derived.length === 0) return [];
  const ids = [...new Set(derived.map(({ id }) => id))].sort();
  const stored = plain(
    await tables.orders.findAll({
      attributes: ['id', 'visitorId', 'at'],
      where: { businessId, id: ids },
      order: [['id', 'ASC']],
      transaction,
      lock: transaction.LOCK.UPDATE,
    }),
  );
  const rows = ofFirstTellers(stored, derived).map(({ at, release, hit, ...rest }) => ({
    ...rest,
    businessId,
    hitId: hit,
    at: new Date(at),
    releaseNumber: release,
  }));
  await insertRows(
    tables.orders,
    rows,
    [
      ...(['visitorId', 'hitId', 'page', 'at', 'visitNumber', 'currency', 'amounts', 'sameAs'] as const),
      ...(['strands', 'lastPaid', 'marked', 'consent', 'releaseNumber'] as const),
    ],
    transaction,
  );
  const own = rows.map(({ id }) => id);
  await markWork(db, 'order', businessId, [...own].sort(), now(), transaction);
  return own;
}

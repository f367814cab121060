import type { Transaction } from 'sequelize';
import type { DerivedOrder } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, markWork, plain, type OrderRow } from '../db';

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
  const earliest = new Map<string, Pick<OrderRow, 'visitorId' | 'at'>>(stored.map((row) => [row.id, row]));
  const rows = new Map<string, OrderRow>();
  for (const { id, visitorId, at, release, hit, ...rest } of derived) {
    const known = earliest.get(id);
    const isOthers = known && known.visitorId !== visitorId;
    const isLater = known && (known.at.getTime() - at || (known.visitorId < visitorId ? -1 : 1)) < 0;
    if (isOthers && isLater) continue;
    const row = { ...rest, businessId, id, visitorId, hitId: hit, at: new Date(at), releaseNumber: release };
    earliest.set(id, row);
    rows.set(id, row);
  }
  await insertRows(
    tables.orders,
    [...rows.values()],
    [
      ...(['visitorId', 'hitId', 'page', 'at', 'visitNumber', 'currency', 'amounts'] as const),
      ...(['strands', 'lastPaid', 'marked', 'consent', 'releaseNumber'] as const),
    ],
    transaction,
  );
  await markWork(db, 'order', businessId, [...rows.keys()].sort(), now(), transaction);
  return [...rows.keys()];
}

import type { Transaction } from 'sequelize';
import type { DerivedEvent } from '../../core/strands';
import type { Context } from '../context';
import { insertRows, plain } from '../db';
import { ofFirstTellers } from '../strands/first-tellers';

/** Stores the events that visitors' pages told. One that another browser told earlier stays that browser's. */
export async function storeEvents(
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
  derived: (DerivedEvent & { visitorId: string })[],
  transaction: Transaction,
): Promise<void> {
  if (derived.length === 0) return;
  const stored = plain(
    await tables.events.findAll({
      attributes: ['id', 'visitorId', 'at'],
      where: { businessId, id: [...new Set(derived.map(({ id }) => id))].sort() },
      order: [['id', 'ASC']],
      transaction,
      lock: transaction.LOCK.UPDATE,
    }),
  );
  await insertRows(
    tables.events,
    ofFirstTellers(stored, derived).map(({ at, release, hit, visit, touch, ...rest }) => ({
      ...rest,
      businessId,
      visitId: visit,
      touchId: touch,
      hitId: hit,
      at: new Date(at),
      releaseNumber: release,
    })),
    [
      ...(['visitorId', 'visitId', 'touchId', 'hitId', 'page', 'at', 'cue'] as const),
      ...(['readings', 'marked', 'consent', 'releaseNumber'] as const),
    ],
    transaction,
  );
}

import { Op, type Transaction } from 'sequelize';
import type { DerivedSignUp } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, markWork, plain } from '../db';

/**
 * Stores sign-ups that visitors' pages sent, in place of what was known of them, and has the subscriptions that name them
 * followed anew. A lead token is of one browser alone.
 */
export async function storeSignUps(
  { db, tables }: Pick<Context, 'db' | 'tables'>,
  businessId: string,
  derived: (DerivedSignUp & { visitorId: string })[],
  transaction: Transaction,
): Promise<void> {
  if (derived.length === 0) return;
  await insertRows(
    tables.signUps,
    derived.map(({ at, release, hit, ...rest }) => ({
      ...rest,
      businessId,
      hitId: hit,
      at: new Date(at),
      releaseNumber: release,
    })),
    [
      ...(['visitorId', 'hitId', 'form', 'page', 'at', 'visitNumber'] as const),
      ...(['strands', 'lastPaid', 'marked', 'consent', 'releaseNumber'] as const),
    ],
    transaction,
  );
  const leadToken = derived.map((one) => one.leadToken).filter(Boolean);
  const of = plain(
    await tables.subscriptions.findAll({
      attributes: ['id'],
      where: { businessId, leadToken: { [Op.in]: leadToken } },
      transaction,
    }),
  );
  await markWork(db, 'subscription', businessId, of.map(({ id }) => id).sort(), now(), transaction);
}

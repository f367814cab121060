import type { Transaction } from 'sequelize';
import { now } from '../clock';
import type { Context } from '../context';
import { markWork, plain } from '../db';

/** Why a telling is held until its account goes on. */
export const accountIsOff = 'its account is paused or not connected';

/** Has what was held for want of an account told, now that it is there or goes on. */
export async function takeUpTellings(
  { db, tables }: Pick<Context, 'db' | 'tables'>,
  businessId: string,
  account: string,
  transaction: Transaction,
): Promise<void> {
  const where = { businessId, account, state: 'held' as const, reason: accountIsOff };
  const held = plain(await tables.eventTellings.findAll({ attributes: ['id'], where, limit: 20_000, transaction }));
  if (held.length === 0) return;
  await tables.eventTellings.update({ state: 'waiting', reason: '' }, { where, transaction });
  await markWork(db, 'event_telling', businessId, held.map(({ id }) => id).sort(), now(), transaction, account);
}

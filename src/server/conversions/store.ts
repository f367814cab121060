import type { Transaction } from 'sequelize';
import type { DerivedConversion } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, markWork } from '../db';

const ofWebsite = { orderId: '', ruledAt: null, takenBackAt: null };

/** Stores what visitors converted by, in place of what was known of it, and has it followed. */
export async function storeConversions(
  { db, tables }: Pick<Context, 'db' | 'tables'>,
  businessId: string,
  derived: (DerivedConversion & { visitorId: string })[],
  transaction: Transaction,
): Promise<void> {
  if (derived.length === 0) return;
  await insertRows(
    tables.conversions,
    derived.map(({ at, release, hit, ...rest }) => ({
      ...rest,
      businessId,
      hitId: hit,
      at: new Date(at),
      releaseNumber: release,
      ...ofWebsite,
    })),
    [
      ...(['fields', 'amounts', 'visitorId', 'hitId', 'page', 'at', 'visitNumber'] as const),
      ...(['strands', 'lastPaid', 'marked', 'consent', 'releaseNumber'] as const),
    ],
    transaction,
  );
  await markWork(db, 'conversion', businessId, derived.map(({ id }) => id).sort(), now(), transaction);
}

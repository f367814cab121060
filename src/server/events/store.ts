/* eslint-disable no-await-in-loop -- one statement for each account, of which there are few */
import type { Transaction } from 'sequelize';
import { eventTellingId, type DerivedEvent } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, markWork, plain } from '../db';
import { groupBy } from '../../core/group-by';
import { ofFirstTellers } from '../strands/first-tellers';

/** Stores the events that visitors' pages told. One that another browser told earlier stays that browser's. */
export async function storeEvents(
  { db, tables }: Pick<Context, 'db' | 'tables'>,
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
  const own = ofFirstTellers(stored, derived);
  await insertRows(
    tables.events,
    own.map(({ at, release, hit, visit, touch, accounts: _, ...rest }) => ({
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
  const tellings = own
    .filter(({ marked }) => marked === '')
    .flatMap(({ id, name, accounts }) =>
      accounts.map((account) => ({
        ...{ businessId, id: eventTellingId(id, account), eventRowId: id, event: name, account },
        ...{ state: 'waiting' as const, reason: '', madeAt: now(), toldAt: null, tries: 0, sent: null },
      })),
    );
  if (tellings.length === 0) return;
  const ids = tellings.map(({ id }) => id);
  const known = new Set(
    plain(await tables.eventTellings.findAll({ attributes: ['id'], where: { businessId, id: ids }, transaction })).map(
      ({ id }) => id,
    ),
  );
  const fresh = tellings.filter(({ id }) => !known.has(id));
  await insertRows(tables.eventTellings, fresh, [], transaction);
  for (const [account, alike] of groupBy(fresh, (one) => one.account))
    await markWork(db, 'event_telling', businessId, alike.map(({ id }) => id).sort(), now(), transaction, account);
}

/* eslint-disable no-await-in-loop -- one statement for each account, of which there are few */
import type { Transaction } from 'sequelize';
import type { HandedHit } from '../../core/capture';
import { eventTellingId, type DerivedEvent, type DerivedTelling } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, markWork, plain, type EventTellingRow } from '../db';
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
    own.map(({ at, release, hit, visit, touch, tellings: _, ...rest }) => ({
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
    .flatMap(({ id, name, at, tellings: all }) =>
      all.map((telling) => ({
        businessId,
        eventRowId: id,
        event: name,
        account: telling.account,
        clickId: telling.clickId,
        happenedAt: new Date(at),
        madeAt: now(),
        tries: 0,
        sent: null,
        ...(telling.by === 'page'
          ? { id: eventTellingId(id, pageTeller(telling.account)), toldBy: 'page' as const, ...pageState(telling) }
          : {
              id: eventTellingId(id, telling.account),
              toldBy: 'server' as const,
              state: 'waiting' as const,
              reason: '',
              toldAt: null,
            }),
      })),
    );
  if (tellings.length === 0) return;
  const ids = tellings.map(({ id }) => id);
  const known = new Set(
    plain(await tables.eventTellings.findAll({ attributes: ['id'], where: { businessId, id: ids }, transaction })).map(
      ({ id }) => id,
    ),
  );
  const [byPages, byServer] = [tellings.filter(isByPage), tellings.filter((one) => !isByPage(one))];
  await insertRows(tables.eventTellings, byPages, ['state', 'reason', 'toldAt'], transaction);
  const fresh = byServer.filter(({ id }) => !known.has(id));
  await insertRows(tables.eventTellings, fresh, [], transaction);
  for (const [account, alike] of groupBy(fresh, (one) => one.account))
    await markWork(db, 'event_telling', businessId, alike.map(({ id }) => id).sort(), now(), transaction, account);
}

/** What a page's telling is known by beside the server's of the same account. */
export const pageTeller = (account: string) => `${account} page`;

const isByPage = ({ toldBy }: Pick<EventTellingRow, 'toldBy'>) => toldBy === 'page';

const handingWords: Record<Exclude<HandedHit['how'], 'told'>, string> = {
  no_opener: 'the page could not load its opener: a blocker, or the page’s content security policy',
  no_function: 'its opener did not bring the function that is to be called',
  failed: 'the function of its opener failed',
};

/** What became of an event that a page tells. */
function pageState({ handed }: DerivedTelling): Pick<EventTellingRow, 'state' | 'reason' | 'toldAt'> {
  if (!handed) return { state: 'unsure', reason: 'the page has not said whether it told it', toldAt: null };
  const toldAt = new Date(handed.at);
  return handed.how === 'told'
    ? { state: 'told', reason: '', toldAt }
    : { state: 'refused', reason: handingWords[handed.how], toldAt };
}

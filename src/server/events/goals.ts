/* eslint-disable no-await-in-loop -- releases are kept in memory, accounts are few */
import type { Transaction } from 'sequelize';
import { groupBy } from '../../core/group-by';
import { eventTellingId } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, markWork, plain, type EventTellingRow, type OutcomeRow } from '../db';
import type { Releases } from '../releases/releases';

/**
 * Has counted outcomes told, each once, to the places that they are offered to as goals, in the same transaction. Which
 * ones says the release under which an outcome was counted.
 */
export async function writeGoals(
  { db, tables }: Pick<Context, 'db' | 'tables'>,
  releases: Releases,
  businessId: string,
  outcomes: readonly OutcomeRow[],
  transaction: Transaction,
): Promise<void> {
  const rows: EventTellingRow[] = [];
  for (const { id, code, happenedAt, releaseNumber } of outcomes) {
    const { content } = await releases.numbered(businessId, releaseNumber);
    for (const { account } of content.goals.filter(({ outcome }) => outcome === code))
      rows.push({
        businessId,
        id: eventTellingId(id, `${account} goal`),
        eventRowId: id,
        event: code,
        account,
        toldBy: 'server',
        clickId: '',
        state: 'waiting',
        reason: '',
        happenedAt,
        madeAt: now(),
        toldAt: null,
        tries: 0,
        sent: null,
      });
  }
  if (rows.length === 0) return;
  const where = { businessId, id: rows.map(({ id }) => id) };
  const known = new Set(
    plain(await tables.eventTellings.findAll({ attributes: ['id'], where, transaction })).map(({ id }) => id),
  );
  const fresh = rows.filter(({ id }) => !known.has(id));
  await insertRows(tables.eventTellings, fresh, [], transaction);
  for (const [account, alike] of groupBy(fresh, (one) => one.account))
    await markWork(db, 'event_telling', businessId, alike.map(({ id }) => id).sort(), now(), transaction, account);
}

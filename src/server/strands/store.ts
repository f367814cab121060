/* eslint-disable no-await-in-loop -- one statement for all standings of a way in */
import type { Sequelize, Transaction } from 'sequelize';
import { standingsOf, wayInKinds, type HopRow, type Strand } from '../../core/strands';
import { insertRows, selectRows, plain, type HopTableRow, type StandingRow, type StrandRow } from '../db';
import { markMoments } from '../rollups/marks';
import type { Context } from '../context';
import { groupBy } from '../../core/group-by';
import { strands } from './table';

/** A hop as the table holds it, from the one core decided. */
export function toHopRow(businessId: string, hop: HopRow): HopTableRow {
  return {
    businessId,
    strandId: hop.strand,
    wayIn: hop.wayIn,
    subjectId: hop.subject,
    outcome: hop.outcome,
    hop: hop.hop,
    state: hop.state,
    reason: hop.reason,
    evidence: hop.evidence,
    at: hop.at === null ? null : new Date(hop.at),
    releaseNumber: hop.release,
  };
}

export function fromHopRow(row: HopTableRow): HopRow {
  return {
    strand: row.strandId,
    wayIn: row.wayIn,
    subject: row.subjectId,
    outcome: row.outcome,
    hop: row.hop,
    state: row.state,
    reason: row.reason,
    evidence: row.evidence,
    at: row.at?.getTime() ?? null,
    release: row.releaseNumber,
  };
}

export function fromStrandRow(row: StrandRow): Strand {
  const { id, kind, platform, clickId, source, medium, campaign, content, utmId, visitorId, marked } = row;
  return {
    id,
    kind,
    platform,
    clickId,
    firstAt: row.firstAt.getTime(),
    source,
    medium,
    campaign,
    content,
    utmId,
    visitor: visitorId,
    marked,
  };
}

export function toStrandRow(businessId: string, { firstAt, visitor, ...rest }: Strand): Partial<StrandRow> {
  return { businessId, ...rest, firstAt: new Date(firstAt), visitorId: visitor };
}

/**
 * Locks strands against other workers until the transaction ends, so that hops written from the visit's side and from
 * the CRM's side are summed up one after the other.
 */
export async function lockStrands(
  db: Sequelize,
  businessId: string,
  ids: string[],
  transaction: Transaction,
): Promise<StrandRow[]> {
  if (ids.length === 0) return [];
  return selectRows(
    db,
    strands.columns,
    'FROM strands WHERE business_id = ? AND id IN (?) ORDER BY id FOR UPDATE',
    [businessId, ids],
    transaction,
  );
}

/** Sums up how far strands came, from their hop rows, into the standings that the line counts. */
export async function settleStrands(
  { db, tables, config }: Pick<Context, 'db' | 'tables' | 'config'>,
  businessId: string,
  ids: string[],
  transaction: Transaction,
): Promise<void> {
  if (ids.length === 0) return;
  const rows = (await tables.hops.findAll({
    where: { businessId, strandId: ids },
    transaction,
    raw: true,
  })) as unknown as HopTableRow[];
  const strands = plain(
    await tables.strands.findAll({ attributes: ['id', 'firstAt'], where: { businessId, id: ids }, transaction }),
  );
  const hopsOf = groupBy(rows.map(fromHopRow), ({ strand }) => strand);
  const standings = strands.flatMap(({ id, firstAt }) =>
    standingsOf(hopsOf.get(id) ?? []).map(({ reason, ...standing }): StandingRow => ({
      businessId,
      strandId: id,
      firstAt,
      ...standing,
      reason: reason && JSON.stringify(reason),
    })),
  );
  const wanted = new Set(standings.map(({ wayIn, strandId }) => `${wayIn} ${strandId}`));
  const known = plain(
    await tables.standings.findAll({
      attributes: ['wayIn', 'strandId'],
      where: { businessId, wayIn: [...wayInKinds], strandId: ids },
      transaction,
    }),
  );
  const stale = groupBy(
    known.filter(({ wayIn, strandId }) => !wanted.has(`${wayIn} ${strandId}`)),
    ({ wayIn }) => wayIn,
  );
  for (const [wayIn, gone] of stale)
    await tables.standings.destroy({
      where: { businessId, wayIn, strandId: gone.map(({ strandId }) => strandId) },
      transaction,
    });
  await insertRows(tables.standings, standings, ['firstAt', 'reached', 'state', 'reason'], transaction);
  await markMoments(
    db,
    businessId,
    strands.map(({ firstAt }) => firstAt.getTime()),
    transaction,
    config.rollUpSeconds * 1000,
  );
}

/** Takes strands' hops and standings away, with strands that are gone. */
export async function dropStrands(
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
  ids: string[],
  transaction: Transaction,
): Promise<void> {
  if (ids.length === 0) return;
  await tables.standings.destroy({
    where: { businessId, wayIn: ['none', ...wayInKinds], strandId: ids },
    transaction,
  });
  await tables.hops.destroy({ where: { businessId, strandId: ids }, transaction });
}

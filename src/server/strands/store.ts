/* eslint-disable no-await-in-loop -- one statement for all strands that change alike */
import type { Sequelize, Transaction } from 'sequelize';
import { followStrand, type HopRow, type Strand } from '../../core/strands';
import { selectRows, plain, type HopTableRow, type StrandRow } from '../db';
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

/** Sums up how far strands came, from their hop rows, onto the strand rows that the line counts. */
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
  const byStrand = new Map<string, HopRow[]>(ids.map((id) => [id, []]));
  for (const row of rows) {
    const hop = fromHopRow(row);
    byStrand.get(hop.strand)?.push(hop);
  }
  const followed = [...byStrand].map(([id, hops]) => {
    const { reached, stop } = followStrand(hops);
    return { id, now: [reached, stop?.state ?? null, stop?.reason ? JSON.stringify(stop.reason) : null] };
  });
  const strands = await tables.strands.findAll({
    attributes: ['firstAt'],
    where: { businessId, id: ids },
    transaction,
  });
  await markMoments(
    db,
    businessId,
    plain(strands).map(({ firstAt }) => firstAt.getTime()),
    transaction,
    config.rollUpSeconds * 1000,
  );
  for (const alike of groupBy(followed, ({ now }) => now.join(' ')).values())
    await db.query(
      'UPDATE strands SET form_reached = ?, form_state = ?, form_reason = ? WHERE business_id = ? AND id IN (?)',
      { replacements: [...alike[0]!.now, businessId, alike.map(({ id }) => id)], transaction },
    );
}

import { Op, type Transaction } from 'sequelize';
import type { Hop, HopRow } from '../../core/strands';
import type { Context } from '../context';
import { insertRows, plain } from '../db';
import { markMoments } from '../rollups/marks';
import { dropStrands, settleStrands, toHopRow } from './store';

/** An enquiry or order, the strands it belongs to now, and the one that it has alone where nothing is known of a click. */
interface Placed {
  subject: string;
  strands: string[];
  alone: string;
}

/**
 * Writes hops of enquiries or orders anew, and clears what strands held that they belong to no more. What follows from the
 * visit itself is left to the visit.
 *
 * @param replaced the hops that are written here
 */
export async function replaceHops(
  context: Context,
  businessId: string,
  placed: Placed[],
  hops: HopRow[],
  replaced: Hop[],
  transaction: Transaction,
): Promise<void> {
  const { tables } = context;
  const strandsOf = new Map(placed.map(({ subject, strands }) => [subject, strands]));
  const held = plain(
    await tables.hops.findAll({
      attributes: ['strandId', 'subjectId'],
      where: { businessId, subjectId: [...strandsOf.keys()] },
      group: ['strandId', 'subjectId'],
      transaction,
    }),
  );
  const left = held.filter(({ strandId, subjectId }) => !strandsOf.get(subjectId)!.includes(strandId));
  const kept = placed.flatMap(({ strands }) => strands);
  await tables.hops.destroy({
    where: {
      businessId,
      subjectId: [...strandsOf.keys()],
      [Op.or]: [...left.map(({ strandId, subjectId }) => ({ strandId, subjectId })), { strandId: kept, hop: replaced }],
    },
    transaction,
  });
  await insertRows(
    tables.hops,
    hops.map((hop) => toHopRow(businessId, hop)),
    ['state', 'reason', 'evidence', 'at', 'releaseNumber'],
    transaction,
  );
  const gone = placed.filter(({ strands, alone }) => !strands.includes(alone)).map(({ alone }) => alone);
  await dropAlone(context, businessId, gone, transaction);
  const others = left.map(({ strandId }) => strandId).filter((id) => !gone.includes(id));
  await settleStrands(context, businessId, [...new Set([...kept, ...others])], transaction);
}

/** Takes away strands that enquiries or orders had alone: it is known what brought them, or they are gone. */
export async function dropAlone(
  context: Context,
  businessId: string,
  ids: string[],
  transaction: Transaction,
): Promise<void> {
  const { db, tables, config } = context;
  if (ids.length === 0) return;
  const there = plain(
    await tables.strands.findAll({ attributes: ['id', 'firstAt'], where: { businessId, id: ids }, transaction }),
  );
  if (there.length === 0) return;
  const known = there.map(({ id }) => id);
  await tables.strands.destroy({ where: { businessId, id: known }, transaction });
  await dropStrands(context, businessId, known, transaction);
  const moments = there.map(({ firstAt }) => firstAt.getTime());
  await markMoments(db, businessId, moments, transaction, config.rollUpSeconds * 1000);
}

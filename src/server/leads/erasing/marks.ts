import { createHmac } from 'node:crypto';
import { Op, type Transaction } from 'sequelize';
import { nowMs } from '../../clock';
import type { Context } from '../../context';
import { plain, type RowOf } from '../../db';
import type { erasures } from './table';

type Kind = RowOf<typeof erasures>['kind'];

/** By which something that was erased is known again. */
export const erasedHash = (key: Buffer, kind: Kind, value: string): string =>
  createHmac('sha256', key).update(`erased ${kind}\u0000${value.toLowerCase()}`).digest('hex');

/** Browsers keep nothing longer (ms) than this. */
const pagesKeep = 400 * 86_400_000;

/**
 * Of some browsers those that were erased, each with when (ms): one look at what was erased of the business, since most of
 * the time nothing was.
 */
export async function readErasedVisitors(
  { tables, config }: Pick<Context, 'tables' | 'config'>,
  businessId: string,
  visitors: readonly string[],
  transaction: Transaction,
): Promise<Map<string, number>> {
  const at = { [Op.gte]: new Date(nowMs() - pagesKeep) };
  const rows = plain(await tables.erasures.findAll({ where: { businessId, kind: 'visitor', at }, transaction }));
  if (rows.length === 0) return new Map();
  const erasedAt = new Map(rows.map((row) => [row.hash, row.at.getTime()]));
  return new Map(
    visitors.flatMap((visitor): [string, number][] => {
      const found = erasedAt.get(erasedHash(config.secretKey, 'visitor', visitor));
      return found === undefined ? [] : [[visitor, found]];
    }),
  );
}

/** Of some values those that were erased, each with when (ms). */
export async function readErased(
  { tables, config }: Pick<Context, 'tables' | 'config'>,
  businessId: string,
  kind: Kind,
  values: readonly string[],
  transaction: Transaction | null = null,
): Promise<Map<string, number>> {
  if (values.length === 0) return new Map();
  const byHash = new Map(values.map((value) => [erasedHash(config.secretKey, kind, value), value]));
  const rows = await tables.erasures.findAll({
    where: { businessId, kind, hash: [...byHash.keys()] },
    transaction,
  });
  return new Map(plain(rows).map(({ hash, at }) => [byHash.get(hash)!, at.getTime()]));
}

import { createHmac } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { Context } from '../../context';
import { plain, type RowOf } from '../../db';
import type { erasures } from './table';

type Kind = RowOf<typeof erasures>['kind'];

/** By which something that was erased is known again. */
export const erasedHash = (key: Buffer, kind: Kind, value: string): string =>
  createHmac('sha256', key).update(`erased ${kind}\u0000${value.toLowerCase()}`).digest('hex');

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

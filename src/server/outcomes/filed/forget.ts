import type { Transaction } from 'sequelize';
import { nilId } from '../../../core/strands';
import type { Context } from '../../context';
import { plain } from '../../db';

/**
 * Takes the click IDs of strands, and the orders, out of what files said; amounts stay as nobody's.
 * @returns the IDs of the conversions that they said
 */
export async function forgetFiled(
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
  strandId: string[],
  transaction: Transaction,
): Promise<string[]> {
  if (strandId.length === 0) return [];
  const where = { businessId, strandId };
  const rows = plain(await tables.filedRows.findAll({ attributes: ['conversionId'], where, transaction }));
  const id = [...new Set(rows.flatMap(({ conversionId }) => conversionId ?? []))];
  // Also what changed one of them later.
  await tables.filedRows.update({ clickId: '', orderId: '' }, { where: { businessId, conversionId: id }, transaction });
  await tables.conversions.update(
    { visitorId: nilId, orderId: '', consent: null },
    { where: { businessId, id }, transaction },
  );
  return id;
}

import type { Transaction } from 'sequelize';
import { enquiryStrandId } from '../../core/strands';
import type { Context } from '../context';
import { dropAlone } from '../strands/replace-hops';

/** Takes out enquiries with the hops and strands that are theirs alone. */
export async function forgetEnquiries(
  context: Context,
  businessId: string,
  ids: string[],
  transaction: Transaction,
): Promise<void> {
  const { tables } = context;
  await tables.hops.destroy({ where: { businessId, subjectId: ids }, transaction });
  await tables.routineRuns.destroy({ where: { businessId, enquiryId: ids }, transaction });
  await tables.routineActs.destroy({ where: { businessId, enquiryId: ids }, transaction });
  await tables.enquiries.destroy({ where: { businessId, id: ids }, transaction });
  await dropAlone(context, businessId, ids.map(enquiryStrandId), transaction);
}

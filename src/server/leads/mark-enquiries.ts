import type { Transaction } from 'sequelize';
import type { Context } from '../context';
import { selectRows, time } from '../db';
import { markMoments } from '../rollups/marks';

/**
 * Says that the sums of the days of all enquiries of some people are to be written anew, in the transaction that changes one
 * of them, or a touch of theirs: each enquiry is credited to the touches of all browsers of its person.
 *
 * @param leadIds records of these people, as they are now or were before
 * @param also moments (ms) of enquiries of nobody who is known
 */
export async function markEnquiriesOf(
  { db, config }: Context,
  businessId: string,
  leadIds: (string | null)[],
  also: number[],
  transaction: Transaction,
): Promise<void> {
  const ids = [...new Set(leadIds.flatMap((id) => id ?? []))];
  const rows =
    ids.length === 0
      ? []
      : await selectRows(
          db,
          { sentAt: time().of('e.sent_at') },
          `FROM leads own JOIN leads l ON l.business_id = own.business_id AND l.person_id = own.person_id
           JOIN enquiries e ON e.business_id = l.business_id AND e.lead_id = l.id
           WHERE own.business_id = ? AND own.id IN (?)`,
          [businessId, ids],
          transaction,
        );
  const moments = [...also, ...rows.map(({ sentAt }) => sentAt.getTime())];
  await markMoments(db, businessId, moments, transaction, config.rollUpSeconds * 1000);
}

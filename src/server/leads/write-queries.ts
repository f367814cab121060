import type { Sequelize } from 'sequelize';
import { now } from '../clock';
import { pick, selectRows, yes, type Read } from '../db';
import { crmWrites } from './table';

const waiting = {
  ...pick(crmWrites, ['businessId', 'id', 'accountId', 'enquiryId', 'dealId', 'number', 'cause', 'fields'], 'w'),
  /** Whether the CRM has the record still. */
  isThere: yes().of('d.id IS NOT NULL'),
};
export type WaitingWrite = Read<typeof waiting>;

/**
 * What waits to be written for enquiries, in the order in which it was made. By hand: it joins each
 * row's record, and ten thousand are read a claim at a time.
 */
export const readWaitingWrites = (db: Sequelize, businessId: string, enquiryIds: string[]): Promise<WaitingWrite[]> =>
  selectRows(
    db,
    waiting,
    `FROM crm_writes w
     LEFT JOIN deals d ON d.business_id = w.business_id AND d.id = w.deal_id AND d.gone_at IS NULL
     WHERE w.business_id = ? AND w.enquiry_id IN (?) AND w.state = 'waiting' ORDER BY w.id`,
    [businessId, enquiryIds],
  );

/** Ends what was written, or was not, with the same answer. By hand: the model goes through every ID a second time. */
export async function endWrites(
  db: Sequelize,
  businessId: string,
  ids: string[],
  { state, answer }: { state: string; answer: string },
): Promise<void> {
  await db.query('UPDATE crm_writes SET state = ?, answer = ?, written_at = ? WHERE business_id = ? AND id IN (?)', {
    replacements: [state, answer, now(), businessId, ids],
  });
}

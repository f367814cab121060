import type { Transaction } from 'sequelize';
import type { ReadRecord } from '../../core/crms';
import type { Context } from '../context';
import { selectRows, text, time, uuid } from '../db';
import { reachedBy } from './record-rows';

/** The enquiry that a new record is of, of a platform's lead or a call; null where it is of none. */
export type OpenLeadOf = (read: ReadRecord) => string | null;

/**
 * Leads of platforms' own forms, and callers, that the CRM has no record of yet, found by email or telephone number: a CRM that
 * gets them by itself, or a person who types them in, knows no lead token. Each is of one record, the newest that came before it.
 */
export async function readOpenLeads(
  { db, config }: Context,
  businessId: string,
  read: readonly ReadRecord[],
  transaction: Transaction,
): Promise<OpenLeadOf> {
  const hashes = [...new Set(read.flatMap((one) => reachedBy(config.secretKey, one).map(({ hash }) => hash)))];
  if (hashes.length === 0) return () => null;
  const rows = await selectRows(
    db,
    { hash: text().of('i.hash'), enquiryId: uuid().of('e.id'), sentAt: time().of('e.sent_at') },
    `FROM identities i JOIN enquiries e ON e.business_id = i.business_id AND e.lead_id = i.lead_id
     LEFT JOIN deals d ON d.business_id = e.business_id AND d.enquiry_id = e.id
     WHERE i.business_id = ? AND i.kind IN ('mail', 'telephone') AND i.hash IN (?) AND e.way_in IN ('lead_form', 'call', 'import')
       AND e.marked <> 'test' AND d.id IS NULL
     ORDER BY e.sent_at DESC, e.id`,
    [businessId, hashes],
    transaction,
  );
  const taken = new Set<string>();
  return (one) => {
    const own = new Set(reachedBy(config.secretKey, one).map(({ hash }) => hash));
    const found = rows.find(
      ({ hash, enquiryId, sentAt }) => own.has(hash) && !taken.has(enquiryId) && sentAt.getTime() <= one.record.madeAt,
    );
    if (!found) return null;
    taken.add(found.enquiryId);
    return found.enquiryId;
  };
}

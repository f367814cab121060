import type { Transaction } from 'sequelize';
import type { ReadRecord } from '../../core/crms';
import type { Context } from '../context';
import { selectRows, text, time, uuid } from '../db';
import { reachedBy } from './record-rows';

/** The enquiry of the platform's lead that a new record is of; null where it is of none. */
export type OpenLeadOf = (read: ReadRecord) => string | null;

/**
 * Leads of platforms' own forms that the CRM has no record of yet, found by email or telephone number: a CRM that gets them
 * from the platform by itself knows no lead token. Each is of one record, the newest that was sent before it.
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
    { hash: text().of('i.hash'), enquiryId: uuid().of('p.enquiry_id'), sentAt: time().of('p.sent_at') },
    `FROM identities i JOIN platform_leads p ON p.business_id = i.business_id AND p.lead_id = i.lead_id
     LEFT JOIN deals d ON d.business_id = p.business_id AND d.enquiry_id = p.enquiry_id
     WHERE i.business_id = ? AND i.kind IN ('mail', 'telephone') AND i.hash IN (?) AND p.is_test = FALSE AND d.id IS NULL
     ORDER BY p.sent_at DESC, p.id`,
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

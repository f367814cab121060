import type { KnownConsent } from '../../core/strands';
import type { Context } from '../context';
import { plain, type ReportBackRow } from '../db';

/** What the people behind report-backs last agreed to, by the subject that each is of. */
export async function readConsents(
  { tables }: Context,
  businessId: string,
  reportBacks: ReportBackRow[],
): Promise<Map<string, KnownConsent | null>> {
  const ofKind = (kind: ReportBackRow['subjectKind']) =>
    reportBacks.filter(({ subjectKind }) => subjectKind === kind).map(({ subjectId }) => subjectId);
  const attributes: ['id', 'consent'] = ['id', 'consent'];
  const [enquiries, orders] = await Promise.all([
    tables.enquiries.findAll({ attributes, where: { businessId, id: ofKind('enquiry') } }).then(plain),
    tables.orders.findAll({ attributes, where: { businessId, id: ofKind('order') } }).then(plain),
  ]);
  return new Map([...enquiries, ...orders].map(({ id, consent }) => [id, consent]));
}

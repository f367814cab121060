import { signUpIdOf, type KnownConsent } from '../../core/strands';
import type { Context } from '../context';
import { plain, type ReportBackRow, type Tables } from '../db';

/** What the people behind report-backs last agreed to, by the subject that each is of. */
export async function readConsents(
  { tables }: Context,
  businessId: string,
  reportBacks: readonly Pick<ReportBackRow, 'subjectKind' | 'subjectId'>[],
): Promise<Map<string, KnownConsent | null>> {
  const ofKind = (kind: ReportBackRow['subjectKind']) =>
    reportBacks.filter(({ subjectKind }) => subjectKind === kind).map(({ subjectId }) => subjectId);
  const attributes: ['id', 'consent'] = ['id', 'consent'];
  const [enquiries, orders, conversions, signUps] = await Promise.all([
    tables.enquiries.findAll({ attributes, where: { businessId, id: ofKind('enquiry') } }).then(plain),
    tables.orders.findAll({ attributes, where: { businessId, id: ofKind('order') } }).then(plain),
    tables.conversions.findAll({ attributes, where: { businessId, id: ofKind('conversion') } }).then(plain),
    readSignedUp(tables, businessId, ofKind('subscription')),
  ]);
  return new Map([...enquiries, ...orders, ...conversions, ...signUps].map(({ id, consent }) => [id, consent]));
}

/** Of subscriptions, what whoever signed up agreed to; null of one whose sign-up nobody knows. */
async function readSignedUp(
  tables: Tables,
  businessId: string,
  id: string[],
): Promise<{ id: string; consent: KnownConsent | null }[]> {
  if (id.length === 0) return [];
  const rows = plain(await tables.subscriptions.findAll({ where: { businessId, id } }));
  const signUpId = rows.map(({ leadToken }) => signUpIdOf(businessId, leadToken));
  const found = plain(await tables.signUps.findAll({ where: { businessId, id: signUpId } }));
  const consentOf = new Map(found.map(({ leadToken, consent }) => [leadToken, consent]));
  return rows.map((row) => ({ id: row.id, consent: consentOf.get(row.leadToken) ?? null }));
}

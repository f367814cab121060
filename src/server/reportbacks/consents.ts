import { groupBy } from '../../core/group-by';
import { signUpIdOf, type KnownConsent } from '../../core/strands';
import type { Context } from '../context';
import { plain, type ReportBackRow, type Tables } from '../db';

/** What the people behind report-backs last agreed to, by the subject that each is of. */
export async function readConsents(
  { tables }: Context,
  businessId: string,
  reportBacks: readonly Pick<ReportBackRow, 'subjectKind' | 'subjectId'>[],
): Promise<Map<string, KnownConsent | null>> {
  const attributes: ['id', 'consent'] = ['id', 'consent'];
  const read = {
    enquiry: (id: string[]) => tables.enquiries.findAll({ attributes, where: { businessId, id } }).then(plain),
    order: (id: string[]) => tables.orders.findAll({ attributes, where: { businessId, id } }).then(plain),
    conversion: (id: string[]) => tables.conversions.findAll({ attributes, where: { businessId, id } }).then(plain),
    subscription: (id: string[]) => readSignedUp(tables, businessId, id),
  };
  const found = await Promise.all(
    [...groupBy(reportBacks, ({ subjectKind }) => subjectKind)].map(([kind, own]) =>
      read[kind](own.map(({ subjectId }) => subjectId)),
    ),
  );
  return new Map(found.flat().map(({ id, consent }) => [id, consent]));
}

/** Of subscriptions, what whoever signed up agreed to; null of one whose sign-up nobody knows. */
async function readSignedUp(
  tables: Tables,
  businessId: string,
  id: string[],
): Promise<{ id: string; consent: KnownConsent | null }[]> {
  const rows = plain(await tables.subscriptions.findAll({ where: { businessId, id } }));
  const signUpId = rows.map(({ leadToken }) => signUpIdOf(businessId, leadToken));
  const found = plain(await tables.signUps.findAll({ where: { businessId, id: signUpId } }));
  const consentOf = new Map(found.map(({ leadToken, consent }) => [leadToken, consent]));
  return rows.map((row) => ({ id: row.id, consent: consentOf.get(row.leadToken) ?? null }));
}

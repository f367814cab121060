import type { KnownConsent } from '../../core/strands';
import type { Context } from '../context';
import { plain, type ReportBackRow } from '../db';

/** What the people behind report-backs last agreed to, by the subject that each is of. */
export async function readConsents(
  { tables }: Context,
  businessId: string,
  reportBacks: ReportBackRow[],
): Promise<Map<string, KnownConsent | null>> {
  const enquiries = reportBacks.filter(({ subjectKind }) => subjectKind === 'enquiry').map((row) => row.subjectId);
  const rows = plain(
    await tables.enquiries.findAll({ attributes: ['id', 'consent'], where: { businessId, id: enquiries } }),
  );
  return new Map(rows.map(({ id, consent }) => [id, consent]));
}

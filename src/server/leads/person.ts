import { AvrixError } from '../../core/errors';
import type { Context } from '../context';
import { plain, type EnquiryRow, type LeadRow } from '../db';

/** Rows of one kind that are read of a person. */
export const mostOfPerson = 20_000;

/** One person: their records and enquiries, and the browsers that they enquired from. */
export interface Person {
  lead: LeadRow | null;
  records: LeadRow[];
  enquiries: EnquiryRow[];
  visitorIds: string[];
}

/** The person of an enquiry; without a record that enquiry alone is theirs. @throws AVX_NOT_FOUND */
export async function readPerson(
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
  enquiryId: string,
): Promise<Person> {
  const enquiry = (await tables.enquiries.findOne({ where: { businessId, id: enquiryId } }))?.get({ plain: true });
  if (!enquiry) throw new AvrixError('AVX_NOT_FOUND', { what: 'enquiry' });
  const found = enquiry.leadId && (await tables.leads.findOne({ where: { businessId, id: enquiry.leadId } }));
  const lead = found ? found.get({ plain: true }) : null;
  const limit = mostOfPerson;
  const records = lead
    ? plain(await tables.leads.findAll({ where: { businessId, personId: lead.personId }, limit }))
    : [];
  const leadId = records.map(({ id }) => id);
  const enquiries =
    leadId.length > 0 ? plain(await tables.enquiries.findAll({ where: { businessId, leadId }, limit })) : [enquiry];
  return { lead, records, enquiries, visitorIds: [...new Set(enquiries.flatMap(({ visitorId }) => visitorId ?? []))] };
}

import type { SubjectKind } from '../../core/strands';
import type { Context } from '../context';
import { plain } from '../db';
import { called, nameless } from '../leads/called';
import type { Membership } from '../people/people';

/** What a subject is called, and where it opens within the business; null where nothing is to be opened. */
export interface SubjectName {
  name: string;
  path: string | null;
}

/** What enquiries, orders, subscriptions and conversions are called, by their IDs. */
export async function readSubjectNames(
  { tables }: Pick<Context, 'tables'>,
  { business, role }: Membership,
  rows: readonly { kind: SubjectKind; subjectId: string }[],
): Promise<Map<string, SubjectName>> {
  const idsOf = (kind: SubjectKind) => rows.flatMap((one) => (one.kind === kind ? [one.subjectId] : []));
  const where = (kind: SubjectKind) => ({ businessId: business.id, id: idsOf(kind) });
  const [enquiries, orders, subscriptions, conversions] = await Promise.all([
    tables.enquiries.findAll({ attributes: ['id', 'leadId', 'wayIn'], where: where('enquiry') }),
    tables.orders.findAll({ attributes: ['id', 'number', 'strands'], where: where('order') }),
    tables.subscriptions.findAll({ attributes: ['id', 'number', 'strands'], where: where('subscription') }),
    tables.conversions.findAll({ attributes: ['id', 'name', 'strands'], where: where('conversion') }),
  ]);
  const leadIds = plain(enquiries).flatMap(({ leadId }) => leadId ?? []);
  const found = await tables.leads.findAll({ where: { businessId: business.id, id: leadIds } });
  const leads = new Map(plain(found).map((lead) => [lead.id, lead]));
  const opens = (way: SubjectKind, [strand]: string[]) => (strand ? `/strands/${strand}?way=${way}` : null);
  return new Map<string, SubjectName>([
    ...plain(enquiries).map(({ id, leadId, wayIn }) => {
      const lead = leadId === null ? undefined : leads.get(leadId);
      const name = lead ? called(lead, role.seesPeople) : nameless(wayIn);
      return [id, { name, path: `/leads/${id}` }] as const;
    }),
    ...plain(orders).map(({ id, number, strands }) => [id, { name: number, path: opens('order', strands) }] as const),
    ...plain(subscriptions).map(
      ({ id, number, strands }) => [id, { name: number, path: opens('subscription', strands) }] as const,
    ),
    ...plain(conversions).map(({ id, name, strands }) => [id, { name, path: opens('conversion', strands) }] as const),
  ]);
}

import { Op, type Transaction } from 'sequelize';
import type { Release } from '../../core/releases';
import { aloneStrand, clickStrandId, enquiryStrandId, isAlone, type Strand } from '../../core/strands';
import type { Context } from '../context';
import { insertRows, plain, type EnquiryRow, type LeadRow } from '../db';
import { fromStrandRow, toStrandRow } from '../strands/store';

export interface Joined {
  strand: Strand;
  joinedBy: EnquiryRow['joinedBy'];
}

/** Click IDs of one text, by the platforms it could be of. */
const clickStrands = ({ businessId, crmRecord }: EnquiryRow, { content }: Release): string[] => {
  const clickId = crmRecord?.fields[content.crm?.fields.click_id ?? ''] ?? '';
  return clickId
    ? content.capture.keep.clickIds.map(({ platform }) => clickStrandId(businessId, platform, clickId))
    : [];
};

/**
 * The strands that enquiries belong to: of each the one of the visit that sent it (lead token), else the one of the click
 * ID in the CRM, else that of an earlier enquiry of the same mail address, else one of its own, which is stored.
 */
export async function joinStrands(
  { tables }: Context,
  enquiries: EnquiryRow[],
  leads: Map<string, LeadRow>,
  release: Release,
  transaction: Transaction,
): Promise<Map<string, Joined>> {
  const { businessId } = enquiries[0]!;
  const byMail = await strandsOfSameMail(tables, enquiries, leads, transaction);
  const wanted = enquiries.flatMap((enquiry) => [
    ...(enquiry.hitId ? [enquiry.strandId] : []),
    ...(!enquiry.hitId ? clickStrands(enquiry, release) : []),
    byMail.get(enquiry.id),
  ]);
  const ids = [...new Set(wanted.filter((id) => typeof id === 'string'))];
  const stored = new Map(
    plain(await tables.strands.findAll({ where: { businessId, id: ids }, transaction })).map((row) => [
      row.id,
      fromStrandRow(row),
    ]),
  );
  const joined = new Map<string, Joined>();
  const own: Strand[] = [];
  for (const enquiry of enquiries) {
    const found = findStrand(enquiry, release, stored, byMail.get(enquiry.id));
    if (!found) own.push(aloneOf(enquiry));
    joined.set(enquiry.id, found ?? { strand: own.at(-1)!, joinedBy: aloneJoinedBy(enquiry) });
  }
  await insertRows(
    tables.strands,
    own.map((strand) => toStrandRow(businessId, strand)),
    ['firstAt', 'marked'],
    transaction,
  );
  return joined;
}

function findStrand(
  enquiry: EnquiryRow,
  release: Release,
  stored: Map<string, Strand>,
  byMail: string | undefined,
): Joined | null {
  const sent = enquiry.hitId && enquiry.strandId ? stored.get(enquiry.strandId) : undefined;
  if (sent && !isAlone(sent)) return { strand: sent, joinedBy: enquiry.crmDeal ? 'lead token' : null };
  if (enquiry.hitId || !enquiry.crmRecord) return null;
  const clicked = clickStrands(enquiry, release).flatMap((id) => stored.get(id) ?? [])[0];
  if (clicked) return { strand: clicked, joinedBy: 'click ID' };
  const same = byMail === undefined ? undefined : stored.get(byMail);
  return same ? { strand: same, joinedBy: 'mail' } : null;
}

const aloneJoinedBy = ({ hitId, crmDeal }: EnquiryRow): EnquiryRow['joinedBy'] =>
  hitId && crmDeal ? 'lead token' : crmDeal ? 'nothing' : null;

const aloneOf = ({ id, sentAt, marked }: EnquiryRow): Strand =>
  aloneStrand('enquiry', enquiryStrandId(id), sentAt.getTime(), marked);

/** Of enquiries that no visit sent, the strand of the newest earlier one by a lead with the same mail address. */
async function strandsOfSameMail(
  tables: Context['tables'],
  enquiries: EnquiryRow[],
  leads: Map<string, LeadRow>,
  transaction: Transaction,
): Promise<Map<string, string>> {
  const { businessId } = enquiries[0]!;
  const hashOf = ({ leadId }: EnquiryRow) => (leadId && leads.get(leadId)?.mailHash) || '';
  const asking = enquiries.filter((enquiry) => !enquiry.hitId && enquiry.crmRecord && hashOf(enquiry) !== '');
  if (asking.length === 0) return new Map();
  const mailHash = [...new Set(asking.map(hashOf))];
  const same = plain(
    await tables.leads.findAll({
      attributes: ['id', 'mailHash'],
      where: { businessId, mailHash },
      limit: 20 * mailHash.length,
      transaction,
    }),
  );
  const hashOfLead = new Map(same.map((lead) => [lead.id, lead.mailHash]));
  const earlier = plain(
    await tables.enquiries.findAll({
      attributes: ['id', 'leadId', 'strandId', 'sentAt'],
      where: { businessId, leadId: [...hashOfLead.keys()], hitId: { [Op.ne]: null }, strandId: { [Op.ne]: null } },
      order: [['sentAt', 'DESC']],
      transaction,
    }),
  );
  const found = asking.flatMap((enquiry): [string, string][] => {
    const one = earlier.find(
      ({ id, leadId, sentAt }) =>
        id !== enquiry.id && sentAt < enquiry.sentAt && hashOfLead.get(leadId!) === hashOf(enquiry),
    );
    return one ? [[enquiry.id, one.strandId!]] : [];
  });
  return new Map(found);
}

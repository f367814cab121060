import { Op, type Transaction } from 'sequelize';
import type { Release } from '../../core/releases';
import { waysIn } from '../../core/ways-in';
import { aloneStrand, clickStrandId, enquiryStrandId, isAlone, type Strand } from '../../core/strands';
import type { Context } from '../context';
import { insertRows, plain, type EnquiryRow, type LeadRow, type TouchRow } from '../db';
import { fromStrandRow, toStrandRow } from '../strands/store';
import type { KnownDeal } from './deals-of';

export interface Joined {
  strand: Strand;
  joinedBy: EnquiryRow['joinedBy'];
  /** The touch that it came by; null where none is known. */
  touchId: string | null;
}

/** Whether an enquiry was sent by somebody, on a page or on a platform; else it is known by the CRM alone. */
export const wasSent = ({ hitId, wayIn }: Pick<EnquiryRow, 'hitId' | 'wayIn'>): boolean =>
  hitId !== null || wayIn !== 'form';

/** Of an enquiry that no visit sent: the strand and touch of the newest earlier one of the same person. */
type OfPerson = Pick<EnquiryRow, 'strandId' | 'touchId'>;

/** Click IDs of one text, by the platforms it could be of. */
const clickStrands = (businessId: string, deals: readonly KnownDeal[], { content }: Release): string[] => {
  const field = content.crm?.fields.click_id ?? '';
  const clickId = deals.map(({ record }) => record.fields[field]).find(Boolean);
  return clickId
    ? content.capture.keep.clickIds.map(({ platform }) => clickStrandId(businessId, platform, clickId))
    : [];
};

/**
 * The strands that enquiries belong to: of each the one of the visit that sent it (lead token), else the one of the click
 * ID in the CRM, else that of an earlier enquiry of the same person, else one of its own, which is stored. A deal that
 * somebody makes by hand so inherits the touch of its person's enquiry.
 */
export async function joinStrands(
  { tables }: Context,
  enquiries: EnquiryRow[],
  deals: Map<string, KnownDeal[]>,
  leads: Map<string, LeadRow>,
  release: Release,
  transaction: Transaction,
): Promise<Map<string, Joined>> {
  const { businessId } = enquiries[0]!;
  const dealsOf = ({ id }: EnquiryRow) => deals.get(id) ?? [];
  const ofPerson = await strandsOfSamePerson(
    tables,
    enquiries.filter((enquiry) => !wasSent(enquiry) && dealsOf(enquiry).length > 0),
    leads,
    transaction,
  );
  const wanted = enquiries.flatMap((enquiry) =>
    wasSent(enquiry)
      ? [enquiry.strandId]
      : [...clickStrands(businessId, dealsOf(enquiry), release), ofPerson.get(enquiry.id)?.strandId],
  );
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
    const isInCrm = dealsOf(enquiry).length > 0;
    const found = isInCrm || wasSent(enquiry) ? findStrand(enquiry, dealsOf(enquiry), release, stored, ofPerson) : null;
    if (!found) own.push(aloneOf(enquiry));
    const alone = wasSent(enquiry) && isInCrm ? sentBy(enquiry) : isInCrm ? 'nothing' : null;
    // One that no visit sent has no touch of its own: what it inherited before is not its any more.
    const touchId = wasSent(enquiry) ? enquiry.touchId : null;
    joined.set(enquiry.id, found ?? { strand: own.at(-1)!, joinedBy: alone, touchId });
  }
  await insertRows(
    tables.strands,
    own.map((strand) => toStrandRow(businessId, strand)),
    ['firstAt', 'marked'],
    transaction,
  );
  const byClick = [...joined.values()].filter(({ joinedBy }) => joinedBy === 'click ID');
  const touches = await touchesOf(
    tables,
    businessId,
    byClick.map(({ strand }) => strand),
    transaction,
  );
  for (const one of byClick) one.touchId = touches.get(one.strand.id) ?? null;
  return joined;
}

function findStrand(
  enquiry: EnquiryRow,
  deals: readonly KnownDeal[],
  release: Release,
  stored: Map<string, Strand>,
  ofPerson: Map<string, OfPerson>,
): Joined | null {
  const { strandId, touchId } = enquiry;
  const sent = wasSent(enquiry) && strandId ? stored.get(strandId) : undefined;
  if (sent && !isAlone(sent)) return { strand: sent, joinedBy: deals.length > 0 ? sentBy(enquiry) : null, touchId };
  if (wasSent(enquiry)) return null;
  const clicked = clickStrands(enquiry.businessId, deals, release).flatMap((id) => stored.get(id) ?? [])[0];
  if (clicked) return { strand: clicked, joinedBy: 'click ID', touchId };
  const same = ofPerson.get(enquiry.id);
  const strand = same?.strandId ? stored.get(same.strandId) : undefined;
  return same && strand ? { strand, joinedBy: 'person', touchId: same.touchId } : null;
}

/** By what the CRM's record of something that was sent is joined to it: nobody types the lead token of a call. */
const sentBy = ({ wayIn }: EnquiryRow) => (wayIn === 'call' ? 'person' : 'lead token');

const aloneOf = ({ id, sentAt, marked, wayIn }: EnquiryRow): Strand =>
  aloneStrand(waysIn[wayIn].alone, enquiryStrandId(id), sentAt.getTime(), marked);

/** The touches that strands of clicks began with. */
async function touchesOf(
  tables: Context['tables'],
  businessId: string,
  strands: Strand[],
  transaction: Transaction,
): Promise<Map<string, string>> {
  const visitorId = [...new Set(strands.map(({ visitor }) => visitor))];
  if (visitorId.length === 0) return new Map();
  const attributes: (keyof TouchRow)[] = ['id', 'visitorId', 'clickId', 'at'];
  const where = { businessId, visitorId, clickId: { [Op.ne]: '' } };
  const touches = plain(await tables.touches.findAll({ attributes, where, order: [['at', 'ASC']], transaction }));
  return new Map(
    strands.flatMap(({ id, visitor, clickId }): [string, string][] => {
      const touch = touches.find((one) => one.visitorId === visitor && one.clickId === clickId);
      return touch ? [[id, touch.id]] : [];
    }),
  );
}

/** Of enquiries that no visit sent, the newest earlier one of the same person that a visit sent. */
async function strandsOfSamePerson(
  tables: Context['tables'],
  asking: EnquiryRow[],
  leads: Map<string, LeadRow>,
  transaction: Transaction,
): Promise<Map<string, OfPerson>> {
  const personOf = ({ leadId }: EnquiryRow) => (leadId && leads.get(leadId)?.personId) || '';
  const personId = [...new Set(asking.map(personOf))].filter(Boolean);
  if (personId.length === 0) return new Map();
  const { businessId } = asking[0]!;
  const records = plain(
    await tables.leads.findAll({ attributes: ['id', 'personId'], where: { businessId, personId }, transaction }),
  );
  const personOfLead = new Map(records.map((lead) => [lead.id, lead.personId]));
  const earlier = plain(
    await tables.enquiries.findAll({
      attributes: ['id', 'leadId', 'strandId', 'touchId', 'sentAt'],
      where: {
        businessId,
        leadId: [...personOfLead.keys()],
        strandId: { [Op.ne]: null },
        [Op.or]: [{ hitId: { [Op.ne]: null } }, { wayIn: { [Op.ne]: 'form' } }],
      },
      order: [['sentAt', 'DESC']],
      transaction,
    }),
  );
  const found = asking.flatMap((enquiry): [string, OfPerson][] => {
    const one = earlier.find(
      ({ id, leadId, sentAt }) =>
        id !== enquiry.id && sentAt < enquiry.sentAt && personOfLead.get(leadId!) === personOf(enquiry),
    );
    return one ? [[enquiry.id, one]] : [];
  });
  return new Map(found);
}

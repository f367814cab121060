import { groupBy } from '../../core/group-by';
import type { EventReadings } from '../../core/leads/taken-along';
import type { FieldState, WrittenFacts } from '../../core/leads/write-back';
import type { Release } from '../../core/releases';
import type { Context } from '../context';
import { plain, type CrmWriteRow, type EnquiryRow, type TouchRow } from '../db';
import { readDeals, type KnownDeal } from './deals-of';

/** An enquiry with its deals that the CRM still has, and what can be written into them. */
export interface Writable {
  enquiry: EnquiryRow;
  deals: KnownDeal[];
  facts: WrittenFacts;
  /** Of whoever enquired, the oldest first. */
  touches: TouchRow[];
  /** What the pages of whoever enquired took along, the oldest first; nothing where it was not asked for. */
  events: EventReadings[];
  /** The click ID of its strand; '' without one. */
  clickId: string;
  /** What a field of a deal holds. @param length characters that it can hold; null where that is not known */
  stateOf(deal: KnownDeal, field: string, length: number | null): FieldState;
}

/** Reads what can be written into the records of enquiries, in the order of their IDs; of staff, bots and tests nothing is. */
export async function readWritable(
  context: Context,
  businessId: string,
  ids: string[],
  release: Release,
  { withReadings }: { withReadings: boolean },
): Promise<Writable[]> {
  const { tables } = context;
  const enquiries = plain(
    await tables.enquiries.findAll({ where: { businessId, id: ids, marked: '' }, order: [['id', 'ASC']] }),
  );
  if (enquiries.length === 0) return [];
  const [deals, touches, written, strands, events] = await Promise.all([
    readDeals(
      context,
      businessId,
      enquiries.map(({ id }) => id),
      release.content,
    ),
    readTouches(context, businessId, enquiries),
    tables.crmWrites.findAll({
      where: { businessId, enquiryId: enquiries.map(({ id }) => id), state: 'written' },
      order: [['writtenAt', 'ASC']],
    }),
    tables.strands.findAll({
      attributes: ['id', 'clickId'],
      where: { businessId, id: enquiries.flatMap(({ strandId }) => strandId ?? []) },
    }),
    withReadings ? readEvents(context, businessId, enquiries) : (): EventReadings[] => [],
  ]);
  const clickIds = new Map(plain(strands).map(({ id, clickId }) => [id, clickId]));
  const writtenOf = groupBy(plain(written), ({ dealId }) => dealId);
  return enquiries.flatMap((enquiry): Writable[] => {
    const there = (deals.get(enquiry.id) ?? []).filter(({ goneAt }) => goneAt === null);
    const all = touches(enquiry);
    return there.length === 0
      ? []
      : [
          {
            enquiry,
            deals: there,
            facts: { enquiry: all.find(({ id }) => id === enquiry.touchId) ?? null, all },
            touches: all,
            events: events(enquiry),
            clickId: (enquiry.strandId && clickIds.get(enquiry.strandId)) || '',
            stateOf: (deal, field, length) => ({
              ...heldIn(deal, field, length, writtenOf.get(deal.id) ?? []),
              length,
              sent: enquiry.fills?.find((line) => line.field === field && line.state === 'filled')?.value ?? '',
            }),
          },
        ];
  });
}

/** What a field holds: as it was read back, or what was written since and is not read back yet. */
function heldIn(
  { record }: KnownDeal,
  field: string,
  length: number | null,
  rows: CrmWriteRow[],
): Pick<FieldState, 'is' | 'written'> {
  const row = rows.findLast(({ fields }) => fields.some((one) => one.field === field));
  const value = row?.fields.findLast((one) => one.field === field)?.becomes;
  const is = record.fields[field] ?? '';
  if (!row || value === undefined) return { is, written: null };
  const isReadBack = row.found !== null || record.changedAt >= row.writtenAt!.getTime();
  return {
    is: isReadBack ? is : value.slice(0, length ?? undefined),
    written: { value, found: row.found?.[field] ?? null },
  };
}

/** What the pages of whoever enquired took along, the oldest first. */
async function readEvents(
  { tables }: Context,
  businessId: string,
  enquiries: EnquiryRow[],
): Promise<(enquiry: EnquiryRow) => EventReadings[]> {
  const visitorId = [...new Set(enquiries.flatMap((one) => one.visitorId ?? []))];
  const rows = await tables.events.findAll({
    attributes: ['visitorId', 'eventId', 'name', 'at', 'readings'],
    where: { businessId, visitorId },
    order: [['at', 'ASC']],
  });
  const byVisitor = groupBy(plain(rows), (row) => row.visitorId);
  return (enquiry) =>
    (byVisitor.get(enquiry.visitorId ?? '') ?? []).map(({ at, ...event }) => ({ ...event, at: at.getTime() }));
}

/** The touches of whoever enquired, the oldest first: of the visitor who sent it, or whose touch it inherited. */
async function readTouches(
  { tables }: Context,
  businessId: string,
  enquiries: EnquiryRow[],
): Promise<(enquiry: EnquiryRow) => TouchRow[]> {
  const inherited = enquiries.flatMap(({ visitorId, touchId }) => (visitorId || !touchId ? [] : touchId));
  const heirs = plain(await tables.touches.findAll({ where: { businessId, id: inherited } }));
  const visitorOfTouch = new Map(heirs.map(({ id, visitorId }) => [id, visitorId]));
  const visitorOf = ({ visitorId, touchId }: EnquiryRow) =>
    visitorId ?? (touchId ? visitorOfTouch.get(touchId) : undefined) ?? '';
  const visitorId = [...new Set(enquiries.map(visitorOf))].filter(Boolean);
  const rows = plain(await tables.touches.findAll({ where: { businessId, visitorId }, order: [['at', 'ASC']] }));
  const byVisitor = groupBy(rows, (row: TouchRow) => row.visitorId);
  return (enquiry) => byVisitor.get(visitorOf(enquiry)) ?? [];
}

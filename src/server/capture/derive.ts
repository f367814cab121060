import { Op, QueryTypes, type Transaction, type WhereOptions } from 'sequelize';
import type { Hit } from '../../core/capture';
import { captureRules, type Release } from '../../core/releases';
import { deriveVisitor, nilId, type DerivedVisitor, type RecordedHit } from '../../core/strands';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, markWork, type EnquiryRow, type Table } from '../db';
import type { Releases } from '../releases/releases';
import { lockStrands, settleStrands, toHopRow, toStrandRow } from '../strands/store';

/** Derives a visitor's visits, touches, strands, hops and enquiries from all its hits, and stores them. */
export function makeDeriveVisitor(context: Context, releases: Releases) {
  const { db } = context;

  /** @returns when to derive again because time alone changes a state, or null */
  return async function deriveAndStore(businessId: string, visitorId: string): Promise<Date | null> {
    const hits = await readHits(businessId, visitorId);
    const numbers = [...new Set(hits.map(({ hit }) => hit.release))];
    const known = new Map<number, Release>();
    for (const number of numbers) known.set(number, await releases.numbered(businessId, number));
    const derived = deriveVisitor(businessId, visitorId, hits, (number) => captureRules(known.get(number)!), nowMs());
    await inTransaction(db, (transaction) => store(context, businessId, visitorId, derived, transaction));
    return derived.again === null ? null : new Date(derived.again);
  };

  async function readHits(businessId: string, visitorId: string): Promise<RecordedHit[]> {
    const rows = await db.query<{ at: Date; body: Hit }>(
      'SELECT at, body FROM hits WHERE business_id = ? AND visitor_id = ? ORDER BY id LIMIT 5000',
      { replacements: [businessId, visitorId], type: QueryTypes.SELECT },
    );
    return rows.map(({ at, body }) => ({ at: at.getTime(), hit: body }));
  }
}

async function store(
  context: Context,
  businessId: string,
  visitorId: string,
  derived: DerivedVisitor,
  transaction: Transaction,
): Promise<void> {
  const { db, tables } = context;
  await deleteStale(tables.visits, businessId, visitorId, derived.visits, transaction);
  await tables.visits.bulkCreate(
    derived.visits.map(({ visitor, touch, startedAt, endedAt, ...rest }) => ({
      ...rest,
      businessId,
      visitorId: visitor,
      touchId: touch,
      startedAt: new Date(startedAt),
      endedAt: new Date(endedAt),
    })),
    { updateOnDuplicate: ['startedAt', 'endedAt', 'pages', 'forms', 'touchId'], transaction },
  );
  await deleteStale(tables.touches, businessId, visitorId, derived.touches, transaction);
  await tables.touches.bulkCreate(
    derived.touches.map(({ at, visit, hit, release, ...rest }) => ({
      ...rest,
      businessId,
      visitorId,
      at: new Date(at),
      visitId: visit,
      hitId: hit,
      releaseNumber: release,
    })),
    { updateOnDuplicate: ['at', 'visitId', 'because', 'releaseNumber'], transaction },
  );

  const ownStrands = await storeStrands(context, businessId, visitorId, derived, transaction);
  const enquiryIds = derived.enquiries.map((enquiry) => enquiry.id);
  await tables.hops.destroy({
    where: {
      businessId,
      [Op.or]: [
        { strandId: ownStrands, subjectId: nilId },
        { subjectId: enquiryIds, hop: 'form_sent' },
      ],
    },
    transaction,
  });
  const hops = derived.hops.filter((hop) => hop.subject !== nilId || ownStrands.includes(hop.strand));
  await tables.hops.bulkCreate(
    hops.map((hop) => toHopRow(businessId, hop)),
    { updateOnDuplicate: ['state', 'reason', 'evidence', 'at', 'releaseNumber'], transaction },
  );
  await tables.enquiries.bulkCreate(
    derived.enquiries.map((enquiry): Partial<EnquiryRow> => ({
      businessId,
      id: enquiry.id,
      leadToken: enquiry.leadToken,
      strandId: enquiry.strand,
      touchId: enquiry.touch,
      visitorId,
      hitId: enquiry.hit,
      form: enquiry.form,
      page: enquiry.page,
      sentAt: new Date(enquiry.sentAt),
      visitNumber: enquiry.visitNumber,
      fields: enquiry.fields,
      fills: enquiry.fills,
      releaseNumber: enquiry.release,
    })),
    {
      updateOnDuplicate: [
        ...(['strandId', 'touchId', 'visitorId', 'hitId', 'form', 'page', 'sentAt'] as const),
        ...(['visitNumber', 'fields', 'fills', 'releaseNumber'] as const),
      ],
      transaction,
    },
  );
  await markWork(db, 'enquiry', businessId, enquiryIds, new Date(nowMs()), transaction);
  await settleStrands(
    context,
    businessId,
    derived.strands.map((s) => s.id),
    transaction,
  );
}

/**
 * Stores a visitor's strands. A click ID that another browser brought earlier stays that browser's, marked shared.
 * @returns IDs of the strands whose hops up to Kept this visitor speaks for
 */
async function storeStrands(
  { db, tables }: Context,
  businessId: string,
  visitorId: string,
  derived: DerivedVisitor,
  transaction: Transaction,
): Promise<string[]> {
  const ids = derived.strands.map((strand) => strand.id);
  const before = new Map((await lockStrands(db, businessId, ids, transaction)).map((row) => [row.id, row]));
  const own: string[] = [];
  for (const strand of derived.strands) {
    const known = before.get(strand.id);
    const others = known !== undefined && known.visitorId !== visitorId;
    const theirs =
      others &&
      (known.firstAt.getTime() < strand.firstAt ||
        (known.firstAt.getTime() === strand.firstAt && known.visitorId < visitorId));
    if (theirs) {
      await tables.strands.update({ shared: true }, { where: { businessId, id: strand.id }, transaction });
      continue;
    }
    own.push(strand.id);
    await tables.strands.upsert(
      { ...toStrandRow(businessId, strand), shared: others || Boolean(known?.shared) },
      { transaction },
    );
  }
  const stale = await deleteStale(tables.strands, businessId, visitorId, derived.strands, transaction);
  if (stale.length > 0) await tables.hops.destroy({ where: { businessId, strandId: stale }, transaction });
  return own;
}

/**
 * Deletes a visitor's rows that the newest deriving no longer gives.
 * @returns their IDs
 */
async function deleteStale<Row extends { id: string; businessId: string; visitorId: string }>(
  table: Table<Row>,
  businessId: string,
  visitorId: string,
  derived: { id: string }[],
  transaction: Transaction,
): Promise<string[]> {
  const rows = await table.findAll({
    attributes: ['id'],
    where: { businessId, visitorId } as WhereOptions<Row>,
    transaction,
  });
  const kept = new Set(derived.map((row) => row.id));
  const stale = rows.map((row) => row.get('id') as string).filter((id) => !kept.has(id));
  if (stale.length > 0) await table.destroy({ where: { businessId, id: stale } as WhereOptions<Row>, transaction });
  return stale;
}

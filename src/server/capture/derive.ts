import { Op, QueryTypes, type Transaction } from 'sequelize';
import type { Hit } from '../../core/capture';
import { captureRules, type Release } from '../../core/releases';
import { deriveVisitor, nilId, type DerivedVisitor, type RecordedHit } from '../../core/strands';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, markWork, type EnquiryRow } from '../db';
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
    const derived = deriveVisitor(
      businessId,
      visitorId,
      hits,
      (number) => captureRules(known.get(number)!),
      nowMs(),
    );
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
  const notAmong = (rows: { id: string }[]) => (rows.length > 0 ? { [Op.notIn]: rows.map((r) => r.id) } : { [Op.ne]: nilId });

  await tables.visits.destroy({ where: { businessId, visitorId, id: notAmong(derived.visits) }, transaction });
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
  await tables.touches.destroy({ where: { businessId, visitorId, id: notAmong(derived.touches) }, transaction });
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
  await settleStrands(context, businessId, derived.strands.map((s) => s.id), transaction);
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
  await db.query(
    `DELETE s, h FROM strands s LEFT JOIN hops h ON h.business_id = s.business_id AND h.strand_id = s.id
     WHERE s.business_id = ? AND s.visitor_id = ? AND s.kind <> 'enquiry' AND s.id NOT IN (?)`,
    { replacements: [businessId, visitorId, ids.length > 0 ? ids : [nilId]], transaction },
  );
  return own;
}

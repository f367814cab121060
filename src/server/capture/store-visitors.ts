import { Op, type Transaction, type WhereOptions } from 'sequelize';
import { nilId, type DerivedVisitor, type Strand } from '../../core/strands';
import { now } from '../clock';
import { dayIn } from '../days';
import type { Context } from '../context';
import { insertRows, markWork, type StrandRow, type Table } from '../db';
import { storeConversions } from '../conversions/store';
import { storeEvents } from '../events/store';
import { storeOrders } from '../orders/store';
import { markMoments } from '../rollups/marks';
import { storeSignUps } from '../subscriptions/store';
import { dropStrands, lockStrands, settleStrands, toHopRow, toStrandRow } from '../strands/store';

/**
 * Stores what was derived of visitors in place of what was known of them; the same rows again change nothing.
 * @param moments (ms) of their hits: all that is derived lies at one of them, now as before
 */
export async function storeVisitors(
  context: Context,
  businessId: string,
  visitors: Map<string, DerivedVisitor>,
  moments: number[],
  transaction: Transaction,
): Promise<void> {
  const { db, tables } = context;
  const visitorIds = [...visitors.keys()];
  const all = [...visitors].map(([visitorId, derived]) => ({ visitorId, derived }));
  const replace = { businessId, visitorIds, transaction };

  const { timeZone } = (await tables.businesses.findByPk(businessId, { transaction }))!.get({ plain: true });
  const visits = all.flatMap(({ derived }) => followEachOther(derived, timeZone));
  await deleteStale(tables.visits, visits, replace);
  await insertRows(
    tables.visits,
    visits.map(({ visitor, touch, startedAt, endedAt, ...rest }) => ({
      ...rest,
      businessId,
      visitorId: visitor,
      touchId: touch,
      startedAt: new Date(startedAt),
      endedAt: new Date(endedAt),
    })),
    ['startedAt', 'endedAt', 'pages', 'forms', 'touchId', 'browser', 'gapHours', 'previousOn', 'marked'],
    transaction,
  );

  const touches = all.flatMap(({ visitorId, derived }) =>
    derived.touches.map((touch, i, { length }) => ({
      ...touch,
      visitorId,
      isFirst: i === 0,
      isLast: i === length - 1,
    })),
  );
  const staleTouches = await deleteStale(tables.touches, touches, replace);
  await insertRows(
    tables.touches,
    touches.map(({ at, visit, hit, release, tags: _, ...rest }) => ({
      ...rest,
      businessId,
      at: new Date(at),
      visitId: visit,
      hitId: hit,
      releaseNumber: release,
    })),
    ['at', 'visitId', 'because', 'isFirst', 'isLast', 'releaseNumber'],
    transaction,
  );

  await storeTouchTags(context, all, staleTouches, replace);
  await tables.findings.destroy({ where: { businessId, visitorId: visitorIds }, transaction });
  await insertRows(
    tables.findings,
    all.flatMap(({ visitorId, derived }) =>
      derived.findings.map(({ hit, at, ...rest }) => ({
        ...rest,
        businessId,
        visitorId,
        hitId: hit,
        at: new Date(at),
      })),
    ),
    ['detail'],
    transaction,
  );
  const owners = await storeStrands(context, all, replace);
  const own = [...owners.keys()];
  const enquiries = all.flatMap(({ visitorId, derived }) => derived.enquiries.map((row) => ({ ...row, visitorId })));
  const enquiryIds = enquiries.map((enquiry) => enquiry.id);
  const orders = all.flatMap(({ visitorId, derived }) => derived.orders.map((order) => ({ ...order, visitorId })));
  const events = all.flatMap(({ visitorId, derived }) => derived.events.map((event) => ({ ...event, visitorId })));
  await deleteStale(tables.events, events, replace);
  await storeEvents(context, businessId, events, transaction);
  const orderIds = new Set(await storeOrders(context, businessId, orders, transaction));
  const signUps = all.flatMap(({ visitorId, derived }) => derived.signUps.map((one) => ({ ...one, visitorId })));
  await deleteStale(tables.signUps, signUps, replace);
  await storeSignUps(context, businessId, signUps, transaction);
  const conversions = all.flatMap(({ visitorId, derived }) =>
    derived.conversions.map((one) => ({ ...one, visitorId })),
  );
  await deleteStale(tables.conversions, conversions, replace);
  await storeConversions(context, businessId, conversions, transaction);
  await tables.hops.destroy({
    where: {
      businessId,
      [Op.or]: [
        { strandId: own, subjectId: nilId },
        { subjectId: enquiryIds, hop: 'form_sent' },
        { subjectId: [...orderIds], hop: 'ordered' },
      ],
    },
    transaction,
  });
  const hops = all.flatMap(({ visitorId, derived }) =>
    derived.hops.filter(({ subject, strand, wayIn }) =>
      wayIn === 'order' ? orderIds.has(subject) : subject !== nilId || owners.get(strand) === visitorId,
    ),
  );
  await insertRows(
    tables.hops,
    hops.map((hop) => toHopRow(businessId, hop)),
    ['state', 'reason', 'evidence', 'at', 'releaseNumber'],
    transaction,
  );

  await insertRows(
    tables.enquiries,
    enquiries.map(({ strand, touch, hit, sentAt, release, clickKept: _, ...rest }) => ({
      ...rest,
      businessId,
      strandId: strand,
      touchId: touch,
      hitId: hit,
      sentAt: new Date(sentAt),
      releaseNumber: release,
    })),
    [
      ...(['strandId', 'touchId', 'visitorId', 'hitId', 'form', 'page', 'sentAt'] as const),
      ...(['visitNumber', 'fields', 'fills', 'marked', 'consent', 'releaseNumber'] as const),
    ],
    transaction,
  );
  await markWork(db, 'enquiry', businessId, enquiryIds, now(), transaction);
  const strandIds = new Set(all.flatMap(({ derived }) => derived.strands.map((strand) => strand.id)));
  await settleStrands(context, businessId, [...strandIds], transaction);
  await markMoments(db, businessId, moments, transaction, context.config.rollUpSeconds * 1000);
}

/** A browser's visits, each with the day of the one before it, and the whole hours since that one ended. */
function followEachOther({ visits, marked }: DerivedVisitor, timeZone: string) {
  const inOrder = [...visits].sort((a, b) => a.startedAt - b.startedAt);
  return inOrder.map((visit, at) => {
    const before = inOrder[at - 1];
    const gap = before && Math.max(0, Math.floor((visit.startedAt - before.endedAt) / 3_600_000));
    const previousOn = before ? dayIn(timeZone, before.startedAt) : null;
    return { ...visit, gapHours: gap ?? null, previousOn, marked };
  });
}

interface Replace {
  businessId: string;
  visitorIds: string[];
  transaction: Transaction;
}

/** Stores which tags came with visitors' touches. Those of bots are not looked at by anybody. */
async function storeTouchTags(
  { tables }: Context,
  all: { visitorId: string; derived: DerivedVisitor }[],
  staleTouches: string[],
  { businessId, transaction }: Replace,
): Promise<void> {
  const isBot = ({ derived }: { derived: DerivedVisitor }) => derived.strands.some(({ marked }) => marked);
  const ofBots = all.filter(isBot).flatMap(({ derived }) => derived.touches.map(({ id }) => id));
  const without = [...staleTouches, ...ofBots];
  if (without.length > 0) await tables.touchTags.destroy({ where: { businessId, touchId: without }, transaction });
  const touches = all
    .filter((one) => !isBot(one))
    .flatMap(({ visitorId, derived }) => derived.touches.map((touch) => ({ ...touch, visitorId })));
  await insertRows(
    tables.touchTags,
    touches.flatMap(({ id, visitorId, at, referrer, campaign, tags }) =>
      tags.map(([tag, value]) => ({
        businessId,
        touchId: id,
        tag,
        value,
        visitorId,
        at: new Date(at),
        campaign,
        host: referrer.split('/')[0]!,
      })),
    ),
    ['at'],
    transaction,
  );
}

/**
 * Stores visitors' strands. A click ID that another browser brought earlier stays that browser's, marked shared.
 * @returns the strands whose hops up to Kept are told by one of these visitors, with that visitor
 */
async function storeStrands(
  { db, tables }: Context,
  all: { visitorId: string; derived: DerivedVisitor }[],
  replace: Replace,
): Promise<Map<string, string>> {
  const { businessId, transaction } = replace;
  const strands = all.flatMap(({ derived }) => derived.strands);
  const ids = [...new Set(strands.map((strand) => strand.id))].sort();
  const given = new Set(strands.map((strand) => `${strand.visitor} ${strand.id}`));
  const stored = await lockStrands(db, businessId, ids, transaction);
  const known = new Map<string, Pick<StrandRow, 'firstAt' | 'visitorId' | 'shared'>>(
    stored
      .filter((row) => !replace.visitorIds.includes(row.visitorId) || given.has(`${row.visitorId} ${row.id}`))
      .map((row) => [row.id, row]),
  );
  const owners = new Map<string, string>();
  const rows = new Map<string, Partial<StrandRow>>();
  const shared = new Set<string>();
  for (const strand of strands) {
    const before = known.get(strand.id);
    const others = before !== undefined && before.visitorId !== strand.visitor;
    if (others) shared.add(strand.id);
    if (others && isEarlier(before, strand)) continue;
    const row = { ...toStrandRow(businessId, strand), shared: others || Boolean(before?.shared) };
    known.set(strand.id, { firstAt: new Date(strand.firstAt), visitorId: strand.visitor, shared: row.shared });
    owners.set(strand.id, strand.visitor);
    rows.set(strand.id, row);
  }
  await insertRows(
    tables.strands,
    [...rows.values()],
    [
      ...(['kind', 'platform', 'clickId', 'firstAt', 'source', 'medium', 'campaign', 'content'] as const),
      ...(['utmId', 'visitorId', 'marked', 'shared'] as const),
    ],
    transaction,
  );
  if (shared.size > 0)
    await tables.strands.update({ shared: true }, { where: { businessId, id: [...shared] }, transaction });
  const stale = await deleteStale(tables.strands, strands, replace);
  await dropStrands({ tables }, businessId, stale, transaction);
  return owners;
}

/** Of two browsers with one click ID the earlier one has it; at the same moment the one of the smaller ID. */
function isEarlier(known: Pick<StrandRow, 'firstAt' | 'visitorId'>, strand: Strand): boolean {
  const at = known.firstAt.getTime();
  return at < strand.firstAt || (at === strand.firstAt && known.visitorId < strand.visitor);
}

/**
 * Deletes visitors' rows that the newest deriving no longer gives.
 * @returns their IDs
 */
async function deleteStale<Row extends { id: string; businessId: string; visitorId: string }>(
  table: Table<Row>,
  derived: { id: string }[],
  { businessId, visitorIds, transaction }: Replace,
): Promise<string[]> {
  const rows = (await table.findAll({
    attributes: ['id'],
    where: { businessId, visitorId: visitorIds } as WhereOptions<Row>,
    transaction,
    raw: true,
  })) as unknown as { id: string }[];
  const kept = new Set(derived.map((row) => row.id));
  const stale = rows.map((row) => row.id).filter((id) => !kept.has(id));
  if (stale.length > 0) await table.destroy({ where: { businessId, id: stale } as WhereOptions<Row>, transaction });
  return stale;
}

import type { Transaction } from 'sequelize';
import { orderHappening, type Happening, type PaymentNotice } from '../../core/outcomes';
import { qualifiedOutcome } from '../../core/releases';
import { aloneStrand, isAlone, nilId, orderStrandId, type HopRow, type Strand } from '../../core/strands';
import type { Context } from '../context';
import { insertRows, inTransaction, plain, type OrderRow, type OutcomeRow } from '../db';
import { countOutcomes } from '../outcomes/count';
import { asHappening, asPaymentNotice, readNotices, type PostedNotice } from '../outcomes/notices/posted';
import type { Releases } from '../releases/releases';
import type { Brakes } from '../reportbacks/brakes';
import { readTellingHops, writeReportBacks } from '../reportbacks/write';
import { replaceHops } from '../strands/replace-hops';
import { fromStrandRow, lockStrands, toStrandRow } from '../strands/store';

/** Follows orders: counts their outcomes once, writes what is to be told of them. */
export function makeFollowOrders(context: Context, releases: Releases, brakes: Brakes) {
  const { db, tables } = context;

  /** @returns nothing to follow again: time alone changes no order */
  return async function followOrders(businessId: string, ids: string[]): Promise<Map<string, Date | null>> {
    await inTransaction(db, async (transaction) => {
      const orders = plain(
        await tables.orders.findAll({ where: { businessId, id: ids }, order: [['id', 'ASC']], transaction }),
      );
      if (orders.length === 0) return;
      const strandsOf = await readStrands(orders, transaction);
      const own = [...new Set([...strandsOf.values()].flat().map(({ id }) => id))].sort();
      await lockStrands(db, businessId, own, transaction);
      const noticesOf = await readNotices(
        context,
        businessId,
        'order',
        orders.map(({ number }) => number),
        transaction,
      );
      const outcomes = await countOutcomes(
        context,
        releases,
        businessId,
        orders.map((order) => ({
          subject: { kind: 'order', id: order.id },
          ...orderHappenings(order, noticesOf.get(order.number) ?? []),
          isMarked: order.marked !== '',
        })),
        transaction,
      );
      const told = orders.flatMap((order) =>
        outcomes
          .get(order.id)!
          .filter(({ subjectId }) => subjectId === order.id)
          .map((outcome) => ({
            outcome,
            strands: strandsOf.get(order.id)!,
            lastPaid: order.lastPaid,
            marked: order.marked,
            consent: order.consent,
            crmClickId: null,
            stageChanges: [],
          })),
      );
      await writeReportBacks(context, releases, brakes, businessId, told, transaction);
      await writeHops(orders, strandsOf, outcomes, transaction);
    });
    return new Map(ids.map((id) => [id, null]));
  };

  /** The strands of each order that are there; where none is, one of its own, which is stored. */
  async function readStrands(orders: OrderRow[], transaction: Transaction): Promise<Map<string, Strand[]>> {
    const { businessId } = orders[0]!;
    const wanted = [...new Set(orders.flatMap(({ strands }) => strands))];
    const known = new Map(
      plain(await tables.strands.findAll({ where: { businessId, id: wanted }, transaction })).map((row) => [
        row.id,
        fromStrandRow(row),
      ]),
    );
    const alone: Strand[] = [];
    const strandsOf = new Map(
      orders.map((order): [string, Strand[]] => {
        const there = order.strands.flatMap((id) => known.get(id) ?? []);
        if (there.length > 0) return [order.id, there];
        alone.push(aloneOf(order));
        return [order.id, alone.slice(-1)];
      }),
    );
    await insertRows(
      tables.strands,
      alone.map((strand) => toStrandRow(businessId, strand)),
      ['firstAt', 'marked'],
      transaction,
    );
    return strandsOf;
  }

  async function writeHops(
    orders: OrderRow[],
    strandsOf: Map<string, Strand[]>,
    outcomes: Map<string, OutcomeRow[]>,
    transaction: Transaction,
  ) {
    const { businessId } = orders[0]!;
    const release = await releases.live(businessId);
    const rule = qualifiedOutcome(release, 'order');
    const hops: HopRow[] = [];
    const counted = [];
    for (const order of orders) {
      const outcome = outcomes.get(order.id)!.find(({ code }) => code === rule?.code);
      for (const strand of strandsOf.get(order.id)!) {
        if (isAlone(strand)) hops.push(...aloneHops(order, strand));
        const key = { strand: strand.id, wayIn: 'order' as const, subject: order.id, release: release.number };
        if (outcome) counted.push({ key, outcome, clickId: strand.clickId });
      }
    }
    hops.push(...(await readTellingHops(context, businessId, counted, release.content.platforms, transaction)));
    await replaceHops(
      context,
      businessId,
      orders.map(({ id }) => ({
        subject: id,
        strands: strandsOf.get(id)!.map((strand) => strand.id),
        alone: orderStrandId(id),
      })),
      hops,
      ['told', 'confirmed'],
      transaction,
    );
  }
}

/** That somebody ordered, what senders posted that happened to it since, and what became of its payment. */
export function orderHappenings(
  order: OrderRow,
  posted: readonly PostedNotice[],
): { happenings: Happening[]; notices: PaymentNotice[] } {
  const ordered = orderHappening(order, order.at.getTime());
  return {
    happenings: [ordered, ...posted.flatMap((one) => asHappening(ordered, one) ?? [])],
    notices: posted.flatMap((one) => asPaymentNotice(one) ?? []),
  };
}

const aloneOf = ({ id, at, marked }: OrderRow): Strand => aloneStrand('order', orderStrandId(id), at.getTime(), marked);

/** The hops of an order that no known click brought: what was before it is not known. */
const aloneHops = (order: OrderRow, strand: Strand): HopRow[] => {
  const row = { strand: strand.id, outcome: '', reason: null, release: order.releaseNumber };
  return [
    ...(['clicked', 'landed', 'kept'] as const).map((hop) => ({
      ...row,
      wayIn: 'none' as const,
      subject: nilId,
      hop,
      state: 'unknown' as const,
      evidence: 'none' as const,
      at: null,
    })),
    {
      ...row,
      wayIn: 'order' as const,
      subject: order.id,
      hop: 'ordered' as const,
      state: 'made_it' as const,
      evidence: 'hit' as const,
      at: order.at.getTime(),
    },
  ];
};

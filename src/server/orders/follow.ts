import { Op } from 'sequelize';
import { orderHappening, type Happening, type PaymentNotice } from '../../core/outcomes';
import { aloneStrand, isAlone, orderedHop, orderStrandId } from '../../core/strands';
import type { Context } from '../context';
import { inTransaction, plain, type OrderRow } from '../db';
import { followBought, type Bought } from '../outcomes/follow-bought';
import { asHappening, asPaymentNotice, readNotices, type PostedNotice } from '../outcomes/notices/posted';
import type { Releases } from '../releases/releases';
import type { Brakes } from '../reportbacks/brakes';

/** Follows orders: counts their outcomes once, writes what is to be told of them. */
export function makeFollowOrders(context: Context, releases: Releases, brakes: Brakes) {
  const { db, tables } = context;

  /** @returns nothing to follow again: time alone changes no order */
  return async function followOrders(businessId: string, ids: string[]): Promise<Map<string, Date | null>> {
    await inTransaction(db, async (transaction) => {
      // One whose person was erased has no number any more, and stays as it is.
      const where = { businessId, id: ids, number: { [Op.ne]: '' } };
      const orders = plain(await tables.orders.findAll({ where, order: [['id', 'ASC']], transaction }));
      if (orders.length === 0) return;
      const numbers = orders.map(({ number }) => number);
      const posted = await readNotices(context, businessId, 'order', numbers, transaction);
      const bought = orders.map((order) => asBought(order, posted.get(order.number) ?? []));
      await followBought({ context, releases, brakes }, businessId, 'order', bought, [], transaction);
    });
    return new Map(ids.map((id) => [id, null]));
  };
}

function asBought(order: OrderRow, posted: readonly PostedNotice[]): Bought {
  const { id, strands, lastPaid, marked, consent, sameAs, releaseNumber } = order;
  const at = order.at.getTime();
  return {
    id,
    strands,
    alone: aloneStrand('order', orderStrandId(id), at, marked),
    lastPaid,
    marked,
    consent,
    sameAs,
    ...orderHappenings(order, posted),
    // On a click or landing it is written with the visit.
    hopsOn: (strand) => (isAlone(strand) ? [orderedHop(strand, { id, at, release: releaseNumber })] : []),
  };
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

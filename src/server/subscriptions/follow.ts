import { Op, type Transaction } from 'sequelize';
import { isPayment, ofSubscription, type Happening, type PaymentNotice } from '../../core/outcomes';
import { linksOf } from '../../core/platforms/links';
import {
  aloneStrand,
  isAlone,
  noOutcome,
  signUpIdOf,
  subscriptionStrandId,
  type HopRow,
  type Strand,
} from '../../core/strands';
import type { Context } from '../context';
import { inTransaction, insertRows, plain, type SignUpRow, type SubscriptionRow } from '../db';
import { followBought, type Bought } from '../outcomes/follow-bought';
import { asHappening, asPaymentNotice, readNotices, type PostedNotice } from '../outcomes/notices/posted';
import type { Releases } from '../releases/releases';
import type { Brakes } from '../reportbacks/brakes';

/**
 * Follows subscriptions: what was posted of each is counted for the clicks of its sign-up, which the lead token names; where
 * no sign-up is known, for the click that a postback names; else for nothing that is known.
 */
export function makeFollowSubscriptions(context: Context, releases: Releases, brakes: Brakes) {
  const { db, tables } = context;

  /** @returns nothing to follow again: time alone changes no subscription */
  return async function followSubscriptions(businessId: string, ids: string[]): Promise<Map<string, Date | null>> {
    await inTransaction(db, async (transaction) => {
      // One whose person was erased has no number any more, and stays as it is.
      const where = { businessId, id: ids, number: { [Op.ne]: '' } };
      const rows = plain(await tables.subscriptions.findAll({ where, order: [['id', 'ASC']], transaction }));
      if (rows.length === 0) return;
      const numbers = rows.map(({ number }) => number);
      const posted = await readNotices(context, businessId, 'subscription', numbers, transaction);
      const signUps = await readSignUps(businessId, rows, transaction);
      const clicks = await readClicks(businessId, rows, transaction);
      const release = (await releases.live(businessId)).number;
      const followed = rows.map((row) => {
        const signUp = signUps.get(row.leadToken) ?? null;
        const click = signUp ? null : (clicks.get(row.clickId) ?? null);
        return { row, bought: asBought(row, signUp, click, posted.get(row.number) ?? [], release) };
      });
      const bought = followed.map((one) => one.bought);
      const way = 'subscription';
      const strandsOf = await followBought(
        { context, releases, brakes },
        businessId,
        way,
        bought,
        ['paid'],
        transaction,
      );
      const found = followed.map(({ row, bought: one }): SubscriptionRow => {
        const strands = strandsOf.get(row.id)!.filter((strand) => !isAlone(strand));
        const paidAt = firstPaid(one.happenings);
        return {
          ...row,
          strands: strands.map(({ id }) => id),
          marked: one.marked,
          paidAt: paidAt === null ? null : new Date(paidAt),
        };
      });
      await insertRows(tables.subscriptions, found, ['strands', 'marked', 'paidAt'], transaction);
    });
    return new Map(ids.map((id) => [id, null]));
  };

  /** Sign-ups by their lead tokens. */
  async function readSignUps(businessId: string, rows: SubscriptionRow[], transaction: Transaction) {
    const id = rows.flatMap(({ leadToken }) => (leadToken === '' ? [] : signUpIdOf(businessId, leadToken)));
    const found = plain(await tables.signUps.findAll({ where: { businessId, id }, transaction }));
    return new Map(found.map((one): [string, SignUpRow] => [one.leadToken, one]));
  }

  /** The newest click of each click ID, of whatever platform; it is found by its platform, so all of them are looked in. */
  async function readClicks(businessId: string, rows: SubscriptionRow[], transaction: Transaction) {
    const clickId = [...new Set(rows.flatMap((row) => (row.clickId === '' ? [] : row.clickId)))];
    if (clickId.length === 0) return new Map<string, string>();
    const { content } = await releases.live(businessId);
    const platform = linksOf(content.platforms).map(({ kind }) => kind);
    const found = plain(
      await tables.strands.findAll({
        where: { businessId, platform, clickId },
        order: [['firstAt', 'ASC']],
        transaction,
      }),
    );
    return new Map(found.map(({ clickId: named, id }) => [named, id]));
  }
}

function asBought(
  { id, number, firstAt }: SubscriptionRow,
  signUp: SignUpRow | null,
  click: string | null,
  posted: readonly PostedNotice[],
  release: number,
): Bought {
  const { happenings, notices } = subscriptionHappenings({ id, number }, posted);
  const marked = signUp?.marked ?? '';
  return {
    id,
    strands: signUp?.strands ?? (click === null ? [] : [click]),
    alone: aloneStrand('subscription', subscriptionStrandId(id), (signUp?.at ?? firstAt).getTime(), marked),
    lastPaid: signUp ? signUp.lastPaid : click,
    marked,
    consent: signUp?.consent ?? null,
    sameAs: '',
    happenings,
    notices,
    hopsOn: (strand) => [paidHop(strand, id, firstPaid(happenings), release)],
  };
}

/** What senders posted that happened to a subscription, and what became of its payments. */
export function subscriptionHappenings(
  subscription: { id: string; number: string },
  posted: readonly PostedNotice[],
): { happenings: Happening[]; notices: PaymentNotice[] } {
  const of = ofSubscription(subscription);
  return {
    happenings: posted.flatMap((one) => asHappening(of, one) ?? []),
    notices: posted.flatMap((one) => asPaymentNotice(one) ?? []),
  };
}

/** When (ms) it was paid for first; null where no payment was posted yet. */
const firstPaid = (happenings: readonly Happening[]): number | null => happenings.find(isPayment)?.at ?? null;

const paidHop = (strand: Strand, subject: string, at: number | null, release: number): HopRow => ({
  strand: strand.id,
  wayIn: 'subscription',
  subject,
  outcome: noOutcome,
  hop: 'paid',
  state: at === null ? 'waiting' : 'made_it',
  reason: at === null ? { code: 'not_paid_yet' } : null,
  evidence: 'postback',
  at,
  release,
});

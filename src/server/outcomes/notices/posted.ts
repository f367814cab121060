import type { Transaction } from 'sequelize';
import { meaningOf, paymentNotice } from '../../../core/outcomes/notices';
import { postedHappening, type Happening, type Money, type PaymentNotice } from '../../../core/outcomes';
import { groupBy } from '../../../core/group-by';
import type { Context } from '../../context';
import { plain } from '../../db';
import type { NoticeRow, SenderRow } from './table';

/** Something that was posted, with who posted it. */
export interface PostedNotice {
  notice: NoticeRow;
  sender: SenderRow;
}

/** What senders posted of some orders or subscriptions, by their numbers, with the sender of each. */
export async function readNotices(
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
  aboutKind: NoticeRow['aboutKind'],
  numbers: string[],
  transaction: Transaction | null = null,
): Promise<Map<string, PostedNotice[]>> {
  // What is erased has no number any more.
  const named = [...new Set(numbers)].filter(Boolean);
  if (named.length === 0) return new Map();
  const rows = plain(
    await tables.notices.findAll({
      where: { businessId, aboutKind, aboutNumber: named },
      order: [
        ['happenedAt', 'ASC'],
        ['id', 'ASC'],
      ],
      transaction,
    }),
  );
  if (rows.length === 0) return new Map();
  const id = [...new Set(rows.map(({ senderId }) => senderId))];
  const senders = plain(await tables.senders.findAll({ where: { businessId, id }, transaction }));
  const senderOf = new Map(senders.map((sender) => [sender.id, sender]));
  return groupBy(
    rows.map((notice) => ({ notice, sender: senderOf.get(notice.senderId)! })),
    ({ notice }) => notice.aboutNumber,
  );
}

/** What a notice says became of its payment; null where it is of another kind, or a test. */
export function asPaymentNotice({ notice, sender }: PostedNotice): PaymentNotice | null {
  const { id, payment, happenedAt, isTest, step } = notice;
  const money = moneyOf(notice);
  return paymentNotice(
    { number: id, payment, at: happenedAt.getTime(), money, isTest },
    meaningOf(sender.steps, step),
    sender.refundSays,
  );
}

/** What a notice says that happened to an order or subscription; null where it counts for nothing, or is a test. */
export function asHappening(of: Omit<Happening, 'at' | 'what'>, { notice, sender }: PostedNotice): Happening | null {
  const { id, step, payment, happenedAt, isTest } = notice;
  const means = meaningOf(sender.steps, step);
  if (isTest || means === null || means === 'nothing') return null;
  return postedHappening(of, {
    sender: sender.key,
    step,
    payment,
    undoes: means !== 'happens',
    number: id,
    at: happenedAt.getTime(),
    money: moneyOf(notice),
  });
}

const moneyOf = ({ amountMinor, currency }: NoticeRow): Money | null =>
  amountMinor === null ? null : { minor: Number(amountMinor), currency };

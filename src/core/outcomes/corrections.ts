import { isPayment, type Happening } from './happening';
import type { Money } from './schema';
import { partOfMoney } from './worth';

/**
 * How an outcome came to be worth something else after it was counted, and by what. `other_currency`: the amount that it is
 * worth is in another one since it was told, so what a platform has cannot be changed to it.
 */
export type OutcomeChange = '' | 'revalued' | 'taken_back' | 'other_currency';
export type ChangeCause = '' | 'amount' | 'refund' | 'chargeback';

/**
 * What somebody says became of a payment. `left` is what remains of it, whatever was said before; `back` is what was given
 * back of it. Without an amount the whole of it was given back.
 */
export interface PaymentNotice {
  /** The sender's own number of it, by which a repeated one is known. */
  number: string;
  /** The payment that it names; '' where it names none. */
  payment: string;
  /** ms */
  at: number;
  cause: Exclude<ChangeCause, '' | 'amount'>;
  says: { left: Money } | { back: Money | null };
}

/**
 * Which notices are about something that happened (rule 17: a correction names its payment). An order is worth what it comes
 * to, so all that is given back is of it. Of a subscription each payment is one by itself: a refund of a renewal leaves the
 * sign-up and the other payments alone, and one that names no payment is of the only one there is.
 *
 * @param all that happened to the same order or subscription
 */
export function noticesAbout(
  happening: Happening,
  all: readonly Happening[],
  notices: readonly PaymentNotice[],
): PaymentNotice[] {
  const { what, subject } = happening;
  if (what.kind !== 'postback') return [...notices];
  if (what.undoes) return [];
  const isOnly = new Set(all.filter(isPayment).map((one) => one.keys.payment)).size === 1;
  return notices.filter(({ payment }) => {
    if (subject.kind === 'order') return payment === '' || what.payment === '' || payment === what.payment;
    return payment === '' ? isOnly && isPayment(happening) : payment === what.payment;
  });
}

/** What an outcome is worth now. */
export interface WorthNow {
  worth: Money | null;
  change: OutcomeChange;
  cause: ChangeCause;
}

/**
 * What of a payment is left after notices of it, whatever order they came in: a repeated one changes nothing, and none
 * leaves less than nothing or more than was paid. A notice in another currency says nothing of it.
 *
 * @returns null where no notice says anything of it
 */
function leftOf(paid: Money, notices: readonly PaymentNotice[]): { minor: number; cause: ChangeCause } | null {
  const once = [...new Map(notices.map((notice) => [notice.number, notice])).values()].sort(
    (a, b) => a.at - b.at || (a.number < b.number ? -1 : 1),
  );
  let [minor, cause]: [number, ChangeCause] = [paid.minor, ''];
  for (const { says, cause: by } of once) {
    const money = 'left' in says ? says.left : says.back;
    if (money && money.currency !== paid.currency) continue;
    const left = 'left' in says ? says.left.minor : says.back === null ? 0 : minor - says.back.minor;
    [minor, cause] = [Math.max(0, Math.min(paid.minor, left)), by];
  }
  return cause === '' ? null : { minor, cause };
}

/**
 * What an outcome is worth after what became of its payment (rule 17): the same part of its worth is left as of the amount
 * that was paid, rounded half up to a whole minor unit; nothing where nothing of it is left. Exact for every amount that can
 * be stored.
 *
 * @param amount what was paid; null where that is not known, so that only the whole of it can be given back
 * @param worth by the outcome's rule, null where it has none
 */
export function worthAfter(
  { amount, worth }: { amount: Money | null; worth: Money | null },
  notices: readonly PaymentNotice[],
): WorthNow {
  const same: WorthNow = { worth, change: '', cause: '' };
  if (notices.length === 0) return same;
  const paid = amount && amount.minor > 0 ? amount : null;
  const left = paid ? leftOf(paid, notices) : leftOf(whole, wholeOrNothing(notices));
  if (!left) return same;
  if (left.minor === 0) return { worth: worth && { ...worth, minor: 0 }, change: 'taken_back', cause: left.cause };
  if (!paid || !worth || left.minor === paid.minor) return same;
  const now = partOfMoney(worth, left.minor, paid.minor);
  return { worth: now, change: now.minor === worth.minor ? '' : 'revalued', cause: left.cause };
}

/** A payment whose amount is not known: it can only be there or be given back. */
const whole: Money = { minor: 1, currency: '' };

const wholeOrNothing = (notices: readonly PaymentNotice[]): PaymentNotice[] =>
  notices.flatMap((notice): PaymentNotice[] => {
    const { says } = notice;
    if ('left' in says) return [{ ...notice, says: { left: { ...whole, minor: says.left.minor > 0 ? 1 : 0 } } }];
    return says.back === null ? [notice] : [];
  });

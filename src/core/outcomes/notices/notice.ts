import { textAt } from '../../capture/pointer';
import { guessPlaces } from '../../guess-places';
import { readMoment } from '../../instant';
import type { PaymentNotice } from '../corrections';
import type { Money } from '../schema';
import { readAmount } from '../worth';

/** What is read of a postback. */
export const noticeParts = [
  ...(['step', 'number', 'order', 'subscription', 'payment', 'amount', 'currency'] as const),
  ...(['at', 'leadToken', 'clickId', 'test'] as const),
];
export type NoticePart = (typeof noticeParts)[number];

export const noticePartWords: Record<NoticePart, string> = {
  step: 'what happened',
  number: 'the postback’s own number',
  order: 'the order number',
  subscription: 'the subscription number',
  payment: 'the payment number',
  amount: 'the amount',
  currency: 'the currency',
  at: 'when it happened',
  leadToken: 'the lead token',
  clickId: 'the click ID',
  test: 'whether it is a test',
};

/** Where each part is, as JSON Pointers (RFC 6901) into what is posted; '' for none. */
export type NoticeReading = Record<NoticePart, string>;

/** What a step of a sender means: that something happened which outcomes can be reached by, or what became of a payment. */
export const noticeMeans = ['happens', 'refund', 'chargeback', 'nothing'] as const;
export type NoticeMeans = (typeof noticeMeans)[number];

/** How what a sender posts is read. */
export interface SenderReading {
  reading: NoticeReading;
  inMinor: boolean;
  currency: string;
}

/** One thing that a sender says happened. `at` in ms. */
export interface Notice {
  /** By which one that is posted again is known: the sender's own number of it, else what it says. */
  number: string;
  step: string;
  about: { kind: 'order' | 'subscription'; number: string };
  /** '' where it names none. */
  payment: string;
  money: Money | null;
  at: number;
  leadToken: string;
  clickId: string;
  isTest: boolean;
}
export type ReadNotice = { ok: true; notice: Notice } | { ok: false; field: NoticePart; was: string; fix: string };

const noWords = new Set(['', '0', 'no', 'false', 'off', 'live']);

/**
 * Reads one postback. Without a number of its own it is known by all that it says, so that the same one posted again is the
 * same; without a time it happened when it came, and never later.
 *
 * @param receivedAt ms
 * @param localTime the instant (ms) of a time without its zone; null for what is none
 */
export function readNotice(
  { reading, inMinor, currency: otherwise }: SenderReading,
  document: unknown,
  receivedAt: number,
  localTime: (text: string) => number | null,
): ReadNotice {
  const text = (part: NoticePart): string => textAt(document, reading[part]);
  const wrong = (field: NoticePart, was: string, fix: string): ReadNotice => ({ ok: false, field, was, fix });
  const step = text('step');
  if (step === '' || step.length > 60)
    return wrong(
      'step',
      step === '' ? `there is nothing at ${reading.step || 'its place'}` : `“${step.slice(0, 20)}…” is too long`,
      'Post what happened there, such as paid.',
    );
  const order = text('order').slice(0, 80);
  const subscription = text('subscription').slice(0, 80);
  if (order === '' && subscription === '')
    return wrong(
      reading.order === '' ? 'subscription' : 'order',
      'it names neither an order nor a subscription',
      'Post the number of the order or the subscription that it is about.',
    );
  const currency = (text('currency') || otherwise).toUpperCase();
  const written = text('amount');
  const money = written === '' ? null : readMoney(written, currency, inMinor);
  if (written !== '' && (!money || money.minor < 0))
    return wrong(
      'amount',
      `“${written}” is no amount in ${currency}`,
      inMinor ? 'Post a whole number of pence or cents, such as 5400.' : 'Post a decimal number, such as 54.00.',
    );
  const when = text('at');
  const at = when === '' ? receivedAt : readMoment(when, localTime);
  if (at === null) return wrong('at', `“${when}” is no time`, 'Post when it happened, such as 2027-02-15T17:00:00Z.');
  const about: Notice['about'] = subscription
    ? { kind: 'subscription', number: subscription }
    : { kind: 'order', number: order };
  const payment = text('payment').slice(0, 80);
  return {
    ok: true,
    notice: {
      number: text('number').slice(0, 80) || [step, about.number, payment, written, when].join(' ').slice(0, 300),
      step,
      about,
      payment,
      money,
      at: Math.min(at, receivedAt),
      leadToken: text('leadToken').toLowerCase().slice(0, 40),
      clickId: text('clickId').slice(0, 300),
      isTest: !noWords.has(text('test').toLowerCase()),
    },
  };
}

function readMoney(written: string, currency: string, inMinor: boolean): Money | null {
  if (!inMinor) return readAmount(written.replace(/^(\d{1,13}),(\d{1,3})$/, '$1.$2'), currency);
  return /^\d{1,15}$/.test(written) && /^[A-Z]{3}$/.test(currency) ? { minor: Number(written), currency } : null;
}

/** What a sender's step means; null where nobody said. */
export const meaningOf = (steps: readonly { says: string; means: NoticeMeans }[], step: string): NoticeMeans | null =>
  steps.find(({ says }) => says === step)?.means ?? null;

/** What a notice says became of its payment; null where it is of another kind, or a test. */
export function paymentNotice(
  { number, payment, at, money, isTest }: Pick<Notice, 'number' | 'payment' | 'at' | 'money' | 'isTest'>,
  means: NoticeMeans | null,
  refundSays: 'back' | 'left',
): PaymentNotice | null {
  if (isTest || (means !== 'refund' && means !== 'chargeback')) return null;
  return {
    number,
    payment,
    at,
    cause: means,
    says: refundSays === 'left' && money ? { left: money } : { back: money },
  };
}

/** Names that parts of postbacks usually have, without what separates their words; the first that is there is taken. */
const usualNames: Record<NoticePart, RegExp> = {
  step: /^(step|event|type|status|action|what|happened)$/,
  number: /^(id|notice|noticeid|eventid|notification|notificationid|ref|no)$/,
  order: /^(order|orderid|ordernumber|orderno)$/,
  subscription: /^(subscription|subscriptionid|subscriptionnumber|contract|contractnumber|plan)$/,
  payment: /^(payment|paymentid|paymentnumber|charge|chargeid|transaction|transactionid)$/,
  amount: /^(amount|sum|value|total|price)$/,
  currency: /^(currency|cur|money)$/,
  at: /^(at|time|date|happenedat|createdat|occurredat|timestamp)$/,
  leadToken: /^(lead|leadtoken|avxlead)$/,
  clickId: /^(click|clickid|clickref)$/,
  test: /^(test|istest|testmode|sandbox)$/,
};

/** What the places in an example tell of where the parts are: a proposal, for a person to take. */
export const guessNoticeReading = (places: readonly string[]): NoticeReading => guessPlaces(usualNames, places);

/** The places by which a sender is read until somebody says otherwise. */
export const usualReading: NoticeReading = guessNoticeReading(
  'step id order subscription payment amount currency at lead click test'.split(' ').map((name) => `/${name}`),
);

/**
 * What was posted, as a document: JSON, a form's body, or an address with its query. Null where it is none of them.
 */
export function documentOf(text: string): unknown {
  const trimmed = text.trim();
  if (/^[[{]/.test(trimmed)) {
    try {
      return JSON.parse(trimmed) as unknown;
    } catch {
      return null;
    }
  }
  const query = trimmed.includes('?') ? trimmed.slice(trimmed.indexOf('?') + 1).split('#')[0]! : trimmed;
  const pairs = [...new URLSearchParams(query)];
  return /=/.test(query) && pairs.length > 0 ? Object.fromEntries(pairs) : null;
}

import { plainName } from '../guess-places';
import type { RuleChange } from '../rules';
import { postedAmount } from './happening';
import type { CountedOnceFor, OutcomeKind, OutcomeRule, TellingRule } from './schema';

/** What can happen to a subscription, each an outcome of its own. */
export const subscriptionParts = ['signUp', 'firstPayment', 'renewal', 'restart', 'refund', 'chargeback'] as const;
export type SubscriptionPart = (typeof subscriptionParts)[number];

interface PartOf {
  words: string;
  kind: OutcomeKind;
  /** What its code ends with, under the plan's convention. */
  ending: string;
  countedOnceFor: CountedOnceFor;
  /** Whether it is worth the amount that is posted. */
  isPaid: boolean;
}
const partOf: Record<SubscriptionPart, PartOf> = {
  signUp: { words: 'sign-up', kind: 'agreement', ending: 'START', countedOnceFor: 'subscription', isPaid: false },
  firstPayment: {
    words: 'first payment',
    kind: 'payment',
    ending: 'PAY',
    countedOnceFor: 'subscription',
    isPaid: true,
  },
  renewal: { words: 'renewal', kind: 'renewal', ending: 'RENEW', countedOnceFor: 'payment', isPaid: true },
  restart: { words: 'restart', kind: 'renewal', ending: 'AGAIN', countedOnceFor: 'payment', isPaid: true },
  refund: { words: 'refund', kind: 'undone', ending: 'BACK', countedOnceFor: 'payment', isPaid: true },
  chargeback: { words: 'chargeback', kind: 'undone', ending: 'DISPUTE', countedOnceFor: 'payment', isPaid: true },
};
export const subscriptionPartWords = (part: SubscriptionPart): string => partOf[part].words;

/** How senders usually call each. */
const usualSteps: Record<SubscriptionPart, RegExp> = {
  signUp: /^(signup|signedup|started|start|subscribed|created|joined)$/,
  firstPayment: /^(firstpayment|firstpaid|initialpayment|paid|payment|firstcharge)$/,
  renewal: /^(renewal|renewed|renew|recurring|rebill|again)$/,
  restart: /^(restart|restarted|resumed|reactivated|backagain|resubscribed)$/,
  refund: /^(refund|refunded|returned|moneyback)$/,
  chargeback: /^(chargeback|chargedback|disputed|dispute)$/,
};

/** One of the outcomes as somebody writes it, before it is made. */
export interface FamilyMember {
  part: SubscriptionPart;
  /** The sender's step; '' where none is chosen: then it is not made. */
  step: string;
  code: string;
}

/** The outcomes of a subscription by a sender's steps, each with the code that the plan's convention gives it. */
export const proposeFamily = (beginning: string, steps: readonly string[]): FamilyMember[] =>
  subscriptionParts.map((part) => ({
    part,
    step: steps.find((step) => usualSteps[part].test(plainName(step))) ?? '',
    code: codeOf(beginning, part),
  }));

/** The code of one, such as CAR-PAY. */
export const codeOf = (beginning: string, part: SubscriptionPart): string =>
  `${beginning || 'SUB'}-${partOf[part].ending}`;

/** How a family is made. */
export interface FamilyGiven {
  members: readonly FamilyMember[];
  /** The key of the sender. */
  sender: string;
  /** What the product line is called, for the words of each. */
  words: string;
  /** Who is told of them: for the record, but for the one that lets it bid; null for nobody. */
  account: { key: string; kind: string } | null;
  /** The one that lets the platform bid; null for none. */
  bids: SubscriptionPart | null;
}

/**
 * The changes of the draft that make the outcomes of a subscription at once. None lets a platform bid but the one that was
 * chosen; the first payment is what Qualified means for subscriptions, where nothing else is yet.
 */
export function familyChanges(
  { members, sender, words, account, bids }: FamilyGiven,
  isQualifiedSet: boolean,
): RuleChange[] {
  const made = members.filter(({ step }) => step !== '');
  const changes = made.flatMap(({ part, step, code }): RuleChange[] => {
    const outcome = outcomeOf(part, { step, code, sender, words });
    const put = (kind: 'outcome' | 'telling', id: string, value: unknown): RuleChange => ({
      kind,
      id,
      value,
      from: null,
    });
    if (!account) return [put('outcome', code, outcome)];
    const telling = { ...startTelling(outcome, account), letsItBid: part === bids };
    return [put('outcome', code, outcome), put('telling', `${code} ${account.key}`, telling)];
  });
  const first = made.find(({ part }) => part === 'firstPayment') ?? made[0];
  if (first && !isQualifiedSet)
    changes.push({
      kind: 'qualified',
      id: 'subscription',
      value: { way: 'subscription', outcome: first.code },
      from: null,
    });
  return changes;
}

function outcomeOf(
  part: SubscriptionPart,
  { step, code, sender, words }: { step: string; code: string; sender: string; words: string },
): OutcomeRule {
  const { isPaid, countedOnceFor, kind, words: what } = partOf[part];
  return {
    code,
    version: 1,
    words: words === '' ? `Subscription: ${what}` : `${words}: ${what}`,
    kind,
    reachedBy: { kind: 'postback', sender, step },
    worth: isPaid ? { kind: 'realised', field: postedAmount, less: [] } : { kind: 'none' },
    countedOnceFor,
    clickDays: 90,
  };
}

/** How an outcome is told to an account at first: for the record, and the first ones are looked at. */
export const startTelling = ({ code }: OutcomeRule, { key, kind }: { key: string; kind: string }): TellingRule => ({
  outcome: code,
  platform: kind,
  account: key,
  as: '',
  letsItBid: false,
  delayMinutes: 60,
  whose: 'platform',
  percent: 100,
  purpose: 'advertising',
  secondKey: 'none',
  how: 'told',
  from: '',
  firstLook: true,
});

import type { FormSentHit, OrderedHit } from '../capture/schema';
import { clickStrandId, landingStrandId, orderIdOf, signUpIdOf } from './ids';
import type { KnownConsent, Mark } from './types';
import type { DerivedTouch, VisitorRules } from './visitor';

export interface DerivedOrder {
  id: string;
  number: string;
  hit: string;
  page: string;
  /** ms, when a page first said it. */
  at: number;
  visitNumber: number;
  release: number;
  currency: string;
  amounts: OrderedHit['amounts'];
  /** The number of an earlier order that it is probably the same as (rule 13); '' for none. */
  sameAs: string;
  /** The clicks it may be counted for: the latest of each platform, the newest first; else the last tagged landing. */
  strands: string[];
  /** The strand of the last paid touch before it; null where none was paid. */
  lastPaid: string | null;
  marked: Mark;
  consent: KnownConsent | null;
}

/** A click ID that this browser brought, with the touch it came with. */
export interface BroughtClick {
  platform: string;
  clickId: string;
  touch: DerivedTouch;
}

/** Whether a touch was paid for: by the ID that came with it, or by what the plan says of its medium. */
const isPaid = ({ platform, clickId, medium }: DerivedTouch, { keep, paidMedia }: VisitorRules): boolean =>
  (clickId !== '' && keep.clickIds.some((rule) => rule.platform === platform && rule.medium !== '')) ||
  paidMedia.includes(medium);

/** The last touch that was paid for; undefined where none was. @param touches the oldest first */
export const lastPaidTouch = (touches: DerivedTouch[], rules: VisitorRules): DerivedTouch | undefined =>
  touches.findLast((touch) => isPaid(touch, rules));

const strandOf = (business: string, { id, platform, clickId }: DerivedTouch): string =>
  clickId ? clickStrandId(business, platform, clickId) : landingStrandId(id);

/**
 * An order as a page said it. Whose click it is (rule 8): of each platform the latest before it, also one whose cookie has
 * ended; without any click, the last tagged landing.
 *
 * @param clicks every click ID that this browser brought before, the oldest first
 * @param touches its touches before, the oldest first
 * @param before its orders before, the oldest first
 */
export function takeOrder(
  business: string,
  hit: OrderedHit,
  at: number,
  visitNumber: number,
  clicks: BroughtClick[],
  touches: DerivedTouch[],
  rules: VisitorRules,
  before: readonly DerivedOrder[],
): Omit<DerivedOrder, 'marked' | 'consent'> {
  return {
    id: orderIdOf(business, hit.number),
    number: hit.number,
    hit: hit.id,
    page: hit.address,
    at,
    visitNumber,
    release: hit.release,
    currency: hit.currency,
    amounts: hit.amounts,
    sameAs: sameOrder(hit, at, before, rules),
    ...broughtToBuy(business, clicks, touches, rules),
  };
}

/**
 * The number of the order that another one is probably the same as (rule 13): of the same browser, with the same amounts,
 * within the minutes that the rule for orders says; of several rules the longest time holds. '' for none.
 */
function sameOrder(
  { currency, amounts }: OrderedHit,
  at: number,
  before: readonly DerivedOrder[],
  { orders }: VisitorRules,
): string {
  const within = Math.max(0, ...orders.map(({ sameMinutes }) => sameMinutes)) * 60_000;
  const sums = (of: OrderedHit['amounts']) => JSON.stringify(of.map(({ name, amount }) => [name, amount]).sort());
  const same = before.findLast(
    (one) => at - one.at < within && one.currency === currency && sums(one.amounts) === sums(amounts),
  );
  return same?.number ?? '';
}

/** A sending of a form by which people subscribe; what is paid then says whoever takes the payments. */
export interface DerivedSignUp extends Omit<DerivedOrder, 'number' | 'currency' | 'amounts' | 'sameAs'> {
  leadToken: string;
  form: string;
}

/** A sign-up as a page sent it, with the clicks that it may be counted for: those of an order (rule 8). */
export const takeSignUp = (
  business: string,
  hit: FormSentHit,
  at: number,
  visitNumber: number,
  clicks: BroughtClick[],
  touches: DerivedTouch[],
  rules: VisitorRules,
): Omit<DerivedSignUp, 'marked' | 'consent'> => ({
  id: signUpIdOf(business, hit.leadToken),
  leadToken: hit.leadToken,
  hit: hit.id,
  form: hit.form,
  page: hit.address,
  at,
  visitNumber,
  release: hit.release,
  ...broughtToBuy(business, clicks, touches, rules),
});

/** What brought somebody who buys or converts: of each platform the latest click, also one whose cookie has ended; else the last tagged landing. */
export function broughtToBuy(
  business: string,
  clicks: BroughtClick[],
  touches: DerivedTouch[],
  rules: VisitorRules,
): Pick<DerivedOrder, 'strands' | 'lastPaid'> {
  const latest = new Map<string, string>();
  for (const { platform, clickId } of [...clicks].reverse())
    if (!latest.has(platform)) latest.set(platform, clickStrandId(business, platform, clickId));
  const tagged = touches.findLast(({ because }) => because === 'campaign_values');
  const paid = lastPaidTouch(touches, rules);
  return {
    strands: latest.size > 0 ? [...latest.values()] : tagged ? [landingStrandId(tagged.id)] : [],
    lastPaid: paid ? strandOf(business, paid) : null,
  };
}

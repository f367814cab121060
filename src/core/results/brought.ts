import { ladderOf } from '../outcomes/ladder';
import type { LadderRule, OutcomeKind, OutcomeRule } from '../outcomes/schema';
import { boughtWaysIn, wayInKinds, type SubjectKind, type WayInKind } from '../strands/types';
import type { Exchange } from './exchange';
import type { CountedSubject } from './figures';
import type { Measure } from './measures';

/** An outcome that was counted, as its row says. Amounts in minor units of its currency. */
export interface CountedOutcome {
  code: string;
  subjectKind: SubjectKind;
  currency: string;
  amount: number;
  worth: number;
  /** What it is worth since it changed; null while it is worth what it was counted for. */
  corrected: number | null;
  isTakenBack: boolean;
  /** Its worth rests on a win rate. */
  isExpected: boolean;
  /** Nothing of the same enquiry was won before it. */
  isFirstWon: boolean;
  /** What the steps before it on its ladder are worth, where each tells what it adds; 0 for none. */
  before: number;
  /** The business's day that it happened on, by whose rate it is exchanged. */
  day: string;
}

/** What of the release results are counted by. */
export interface BroughtRules {
  outcomes: readonly OutcomeRule[];
  ladders: readonly LadderRule[];
  qualified: Partial<Record<WayInKind, string>>;
}

/** Outcomes that win something: a deal that was agreed, or a payment; a renewal brings money and wins nobody anew. */
const winning: readonly OutcomeKind[] = ['agreement', 'payment'];

/** Codes of the outcomes of a kind. */
const codesOf = ({ outcomes }: Pick<BroughtRules, 'outcomes'>, kinds: readonly OutcomeKind[]): string[] =>
  outcomes.filter(({ kind }) => kinds.includes(kind)).map(({ code }) => code);
export const winningCodes = (rules: Pick<BroughtRules, 'outcomes'>): string[] => codesOf(rules, winning);
/** Codes of the outcomes that bring money: a renewal does too. */
export const moneyCodes = (rules: Pick<BroughtRules, 'outcomes'>): string[] => codesOf(rules, [...winning, 'renewal']);

/** Codes of the outcomes that say of an enquiry that it is *Qualified*. */
export const qualifiedCodes = ({ qualified }: Pick<BroughtRules, 'qualified'>): string[] => {
  const ofEnquiries = wayInKinds.filter((kind) => !(boughtWaysIn as readonly WayInKind[]).includes(kind));
  return [...new Set(ofEnquiries.flatMap((kind) => qualified[kind] ?? []))];
};

/** Steps before an outcome on a ladder on which each tells what it adds: their worths belong to the deal's. */
export const stepsBefore = ({ ladders }: Pick<BroughtRules, 'ladders'>, code: string): string[] => {
  const ladder = ladderOf(ladders, code);
  return ladder?.tells === 'what it adds' ? ladder.steps.slice(0, ladder.steps.indexOf(code)) : [];
};

/**
 * What an outcome counts for and brought. What was taken back whole counts for nothing. Revenue is the amount that its worth is made
 * of, profit that worth, both as they are since they changed; what is only expected is neither. Of several things that
 * one enquiry won the first is counted, so that a lease and its first payment are not two.
 *
 * @returns amounts in the business's currency; none where the exchange rate is not known: `hasNoRate`
 */
export function broughtBy(
  outcome: CountedOutcome,
  rules: BroughtRules,
  exchange: Exchange,
): Pick<CountedSubject, 'counts' | 'amounts'> & { hasNoRate: boolean } {
  const nothing = { counts: [], amounts: {}, hasNoRate: false };
  if (outcome.isTakenBack) return nothing;
  const { code, subjectKind, amount, worth, corrected, before } = outcome;
  const kind = rules.outcomes.find((rule) => rule.code === code)?.kind;
  const isWinning = kind !== undefined && winning.includes(kind) && (subjectKind !== 'enquiry' || outcome.isFirstWon);
  const counts: Measure[] = [
    `outcome.${code}`,
    ...(subjectKind === 'enquiry' && qualifiedCodes(rules).includes(code) ? (['qualified'] as const) : []),
    ...(isWinning ? (['won'] as const) : []),
  ];
  const isMoney = (isWinning || kind === 'renewal') && !outcome.isExpected;
  if (!isMoney) return { counts, amounts: {}, hasNoRate: false };
  const now = corrected ?? worth;
  const revenue = exchange(amount + (now - worth), outcome.currency, outcome.day);
  const profit = exchange(now + before, outcome.currency, outcome.day);
  if (revenue === null || profit === null) return { counts, amounts: {}, hasNoRate: true };
  return { counts, amounts: { revenue, profit }, hasNoRate: false };
}

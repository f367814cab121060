import type { Consent } from '../capture/schema';
import type { ChangeCause } from '../outcomes/corrections';
import type { OutcomeRule, TellingRule } from '../outcomes/schema';
import type { PlatformContract, TellingRow } from '../platforms/contract';
import type { Reason } from '../reasons/codes';
import type { Mark, Strand } from '../strands/types';
import type { reportBackStates } from './answers';
import { isOnlyWorkedOut } from './compare';
import type { BrakeBecause } from './brake';

const day = 86_400_000;

export type ReportBackState = (typeof reportBackStates)[number];

export interface TellingCase {
  outcome: OutcomeRule;
  telling: TellingRule;
  happenedAt: number;
  strand: Strand;
  /** The person who holds it in the queue; '' for nobody. */
  stoppedBy: string;
  /** The number of the order that it is probably the same as; '' for none, and where somebody let it go all the same. */
  sameAs: string;
  /** The last stage that the deal reached while the click was young enough, days after it; null for none. */
  earlier: { stage: string; days: number } | null;
  /** How the enquiry is marked, which may be known later than of its strand. */
  marked: Mark;
  /** The stage the deal went to within the delay, away from the outcome's; null where it did not. */
  leftFor: string | null;
  /** The click ID in the CRM's record, '' where it is empty; null where no CRM carries it, as for an order. */
  crmClickId: string | null;
  /** By what its payment was given back, all of it; '' where it was not. */
  takenBack: ChangeCause;
  /** False where the amount that the worth is made of is missing. */
  hasWorth: boolean;
  contract: PlatformContract;
  /** By what else the platform knows the person, where no click was ever known; null where it may not be told so. */
  person: TellingRow['key'] | null;
  /** Whether this click was the last paid touch before what happened. */
  isLastPaid: boolean;
  /** How the account is that is to be told; `none` where no such account is connected. */
  account: 'none' | 'ready' | 'paused' | 'retired';
  /** Why it is held as one with others; null where nobody has to look. */
  brake: BrakeBecause | null;
  /** What the person last agreed to; null where no page ever said. */
  consent: Consent | null;
  /** True where the release asks for consent. */
  consentRequired: boolean;
}

export type TellingDecision =
  | { state: 'none' }
  | { state: 'held'; reason: Reason; key: TellingRow['key'] }
  /** It would be told, and is not: it is only worked out. */
  | { state: 'withdrawn'; reason: Reason; key: TellingRow['key'] }
  | { state: 'waiting'; dueAt: number; key: TellingRow['key'] };

/**
 * Whether an outcome is told to a platform, held with a reason, or concerns that platform not at all. The key told is
 * the one in the CRM's record; where that is empty although the visit knows it, the report-back is held until the
 * cause is mended. Both ages are checked: click to outcome here, outcome to telling here and again at the telling;
 * the shorter of the contract's and the outcome's limit holds. Of whom no click was ever known it is told by another key, where
 * the rule says so; no click ages then. A platform that is told of the last paid touch alone has
 * nothing to do with what another one's click brought.
 *
 * @param now ms
 */
export function decideTelling(input: TellingCase, now: number): TellingDecision {
  const { strand, contract, outcome, happenedAt } = input;
  const isClick = strand.kind === 'click' && strand.platform === contract.kind;
  if (!isClick && !input.person) return { state: 'none' };
  const clicks = input.telling.whose === 'platform' ? contract.tells : input.telling.whose;
  if (clicks === 'last paid touch' && !input.isLastPaid) return { state: 'none' };
  const { clickId } = strand;
  const key: TellingRow['key'] = isClick ? { kind: 'click_id', value: clickId } : input.person!;
  const held = (reason: Reason): TellingDecision => ({ state: 'held', reason, key });
  const mark = strand.marked || input.marked;
  if (mark) return held({ code: 'no_customer', mark });
  if (input.stoppedBy !== '') return held({ code: 'held_by', by: input.stoppedBy });
  if (input.sameAs !== '') return held({ code: 'probably_same', as: input.sameAs });
  if (input.leftFor !== null) return held({ code: 'left_stage', stage: stageOf(outcome), leftFor: input.leftFor });
  if (input.takenBack !== '') return held({ code: 'taken_back', cause: input.takenBack });
  if (!mayTell(input.consent, input.consentRequired, input.telling.purpose)) return held({ code: 'no_consent' });
  if (isClick && input.crmClickId === '') return held({ code: 'no_click_in_crm' });
  if (isClick && input.crmClickId !== null && input.crmClickId !== clickId) return held({ code: 'crm_click_differs' });
  if (input.account === 'none') return held({ code: 'no_account', platform: contract.words });
  if (input.account !== 'ready') return held({ code: 'account_off', platform: contract.words, how: input.account });
  if (!input.hasWorth) return held({ code: 'no_worth', field: 'field' in outcome.worth ? outcome.worth.field : '' });
  const limit = Math.min(outcome.clickDays, contract.limits.clickDays);
  const age = happenedAt - strand.firstAt;
  if (isClick && age >= limit * day) {
    const tooOld = { code: 'click_too_old' as const, days: Math.floor(age / day), limit };
    return held(input.earlier ? { ...tooOld, earlier: input.earlier } : tooOld);
  }
  const late = tooLate(happenedAt, contract, now);
  if (late) return held(late);
  if (isOnlyWorkedOut(input.telling, happenedAt)) return { state: 'withdrawn', reason: { code: 'worked_out' }, key };
  if (input.brake) return held({ code: 'brake', because: input.brake });
  return { state: 'waiting', dueAt: happenedAt + input.telling.delayMinutes * 60_000, key };
}

/**
 * Whether platforms may be told of somebody: where consent is required only after a "yes" to the purpose, elsewhere unless
 * somebody said "no" to it.
 */
export const mayTell = (
  consent: Consent | null,
  required: boolean,
  purpose: TellingRule['purpose'] = 'advertising',
): boolean => (required ? consent?.[purpose] === 'yes' : consent?.[purpose] !== 'no');

/** Why an outcome can no longer be told at `now`; null while it can. */
export function tooLate(happenedAt: number, { limits }: PlatformContract, now: number): Reason | null {
  const age = now - happenedAt;
  return age > limits.tellWithinDays * day
    ? { code: 'told_too_late', days: Math.floor(age / day), limit: limits.tellWithinDays }
    : null;
}

const stageOf = ({ reachedBy }: OutcomeRule): string => (reachedBy.kind === 'stage' ? reachedBy.stage : '');

/**
 * Whether a row may have been taken by an attempt whose answer never came, or was an error of the platform's own.
 *
 * @param attempts how each earlier attempt ended, oldest first: an HTTP status, or words where there was none;
 *   `not taken` where a person said so
 */
export function mayBeTaken(attempts: string[]): boolean {
  const since = attempts.slice(attempts.lastIndexOf(saidNotTaken) + 1);
  return since.some((status) => status !== notSent && !/^(200|4\d\d)$/.test(status));
}

/** How an attempt ended of which nothing left this machine: no host, no connection. */
export const notSent = 'not sent';

/** Stands among the attempts where a person looked at the platform and did not find the row. */
export const saidNotTaken = 'not taken';

const longestWait = 6 * 3_600_000;

/**
 * How long (ms) a service asked to be left alone by its Retry-After (RFC 9110, 10.2.3): seconds, or a date. At least one
 * second and at most six hours, whatever it says; null where it says nothing that can be read.
 *
 * @param now ms
 */
export function retryAfter(header: string | undefined, now: number): number | null {
  const text = header?.trim() ?? '';
  const wait = /^-?\d+(\.\d+)?$/.test(text) ? Number(text) * 1000 : /[a-z]/i.test(text) ? Date.parse(text) - now : NaN;
  return Number.isNaN(wait) ? null : Math.min(Math.max(wait, 1000), longestWait);
}

/**
 * How long to wait (ms) before the next attempt: twice as long each time, up to six hours, then up to a fifth longer, so
 * that what failed together does not come back together.
 *
 * @param random from 0 to 1
 * @param first the wait (ms) after the first attempt: a minute where a service outside has to come back
 */
export function waitAfter(attempts: number, random: number, first = 60_000): number {
  const wait = Math.min(first * 2 ** Math.max(0, attempts - 1), longestWait);
  return Math.round(wait * (1 + random / 5));
}

import type { ChangeCause, OutcomeChange } from '../outcomes/corrections';
import type { PlatformContract } from '../platforms/contract';
import type { Reason } from '../reasons/codes';
import type { TellingCase } from './decide';

const day = 86_400_000;

/** What a platform has of an outcome, and what it is worth now. Amounts in minor units, times in ms. */
export interface CorrectionCase {
  /** The worth that the platform has. */
  has: number;
  /** What the outcome is worth now, how that came and by what. */
  worth: number;
  change: OutcomeChange;
  cause: ChangeCause;
  /** When the platform took it. */
  takenAt: number;
  contract: PlatformContract;
  account: TellingCase['account'];
  /** The newest correction of it, where there is one. */
  newest: {
    isOpen: boolean;
    tells: number;
    stoppedBy: string;
    /** Whether it may have been taken by an attempt that nobody answered. */
    mayBeTaken: boolean;
  } | null;
}

/**
 * - `none`: nothing is to be told.
 * - `withdrawn`: a correction that waited has become needless.
 * - `held`, `waiting`: of the newest correction, or where that ended of a new one (`isNew`).
 */
export type CorrectionDecision =
  | { state: 'none' }
  | { state: 'withdrawn'; reason: Reason }
  | { state: 'held'; reason: Reason; isNew: boolean }
  | { state: 'waiting'; isNew: boolean };

/**
 * Whether a platform is told that an outcome is worth something else than it has (rule 17): only once it has taken the
 * outcome, and one correction after the other, each with the worth as it is then. What somebody withdrew or the platform
 * refused is not told again for the same worth. Nobody is asked for consent to it: nothing new is told of anybody.
 *
 * @param now ms
 */
export function decideCorrection(input: CorrectionCase, now: number): CorrectionDecision {
  const { contract, newest } = input;
  const differs = input.change === 'other_currency' || input.has !== input.worth;
  const isNew = !newest?.isOpen;
  if (!differs) {
    if (isNew) return { state: 'none' };
    // Perhaps the platform has it already: then it is told once more.
    return newest.mayBeTaken ? { state: 'waiting', isNew } : { state: 'withdrawn', reason: { code: 'changed_back' } };
  }
  if (isNew && newest?.tells === input.worth) return { state: 'none' };
  const held = (reason: Reason): CorrectionDecision => ({ state: 'held', reason, isNew });
  const platform = contract.words;
  if (newest?.isOpen && newest.stoppedBy !== '') return held({ code: 'held_by', by: newest.stoppedBy });
  if (input.change === 'other_currency') return held({ code: 'other_currency' });
  if (!contract.changes) return held({ code: 'change_not_taken', platform });
  if (input.account === 'none') return held({ code: 'no_account', platform });
  if (input.account !== 'ready') return held({ code: 'account_off', platform, how: input.account });
  const { withinDays: limit } = contract.changes;
  const age = now - input.takenAt;
  if (age > limit * day) return held({ code: 'change_too_late', platform, days: Math.floor(age / day), limit });
  return { state: 'waiting', isNew };
}

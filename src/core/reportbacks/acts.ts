import type { ReportBackState } from './decide';

/** What a person can do with report-backs in the queue. */
export const reportBackActs = ['hold', 'let_go', 'tell_now', 'withdraw', 'tell_again'] as const;
export type ReportBackAct = (typeof reportBackActs)[number];

/** What of a report-back says whether something can be done with it. Times in ms. */
export interface ActedOn {
  state: ReportBackState;
  /** The person who holds it; '' for nobody. */
  stoppedBy: string;
  /** Whether it is held as probably the same as another. */
  isSame: boolean;
  dueAt: number | null;
  /** Whether its platform is being asked at this moment. */
  isBeingTold: boolean;
}

/** Why nothing is done with a report-back. */
export type LeftAlone =
  | 'being told'
  | 'told already'
  | 'unsure'
  | 'held already'
  | 'not held by a person'
  | 'held for a reason'
  | 'due already'
  | 'withdrawn'
  | 'refused'
  | 'not refused';

/**
 * Whether an act does something to a report-back. What a platform took, or may have taken, changes only by a correction
 * (rules of worth): it is never held, withdrawn or told again from here.
 *
 * @param now ms
 * @returns null where it does; else why it is left alone
 */
export function leftAlone(act: ReportBackAct, given: ActedOn, now: number): LeftAlone | null {
  const { state, stoppedBy, dueAt } = given;
  if (given.isBeingTold) return 'being told';
  if (state === 'told' || state === 'confirmed') return 'told already';
  if (state === 'unsure') return 'unsure';
  switch (act) {
    case 'hold':
      if (state === 'withdrawn') return 'withdrawn';
      if (state === 'refused') return 'refused';
      return stoppedBy === '' ? null : 'held already';
    case 'let_go':
      return state === 'held' && (stoppedBy !== '' || given.isSame) ? null : 'not held by a person';
    case 'tell_now':
      if (state === 'waiting') return dueAt !== null && dueAt > now ? null : 'due already';
      return state === 'held' ? 'held for a reason' : state === 'refused' ? 'refused' : 'withdrawn';
    case 'withdraw':
      return state === 'withdrawn' ? 'withdrawn' : null;
    case 'tell_again':
      return state === 'refused' || state === 'withdrawn' ? null : 'not refused';
  }
}

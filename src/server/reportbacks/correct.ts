import type { PlatformContract } from '../../core/platforms';
import { decideCorrection, type CorrectionCase } from '../../core/reportbacks';
import { correctionIdOf } from '../../core/strands';
import { now, nowMs } from '../clock';
import type { OutcomeRow, ReportBackRow } from '../db';
import { partOfMoney } from '../../core/outcomes';
import { worthNow } from '../outcomes/worth-now';

/**
 * The correction of what a platform has taken, as it is to be stored: the newest one changed, or the next.
 *
 * @param before the report-back that was taken
 * @param newest its newest correction
 * @param percent how much of the worth is told
 * @param unclear IDs of those that may be taken by an attempt that nobody answered
 * @returns null where nothing is to be told
 */
export function correctionOf(
  outcome: OutcomeRow,
  before: ReportBackRow,
  newest: ReportBackRow | undefined,
  unclear: ReadonlySet<string>,
  contract: PlatformContract,
  account: CorrectionCase['account'],
  percent: number,
): ReportBackRow | null {
  const worth = partOfMoney(worthNow(outcome), percent, 100).minor;
  const isOpen = newest?.state === 'waiting' || newest?.state === 'held';
  const decision = decideCorrection(
    {
      has: Number(before.toldMinor ?? before.tellsMinor ?? outcome.worthMinor),
      worth,
      change: outcome.worthChange,
      cause: outcome.changeCause,
      takenAt: before.answeredAt!.getTime(),
      contract,
      account,
      newest: newest
        ? {
            isOpen,
            tells: Number(newest.tellsMinor),
            stoppedBy: newest.stoppedBy,
            mayBeTaken: unclear.has(newest.id),
          }
        : null,
    },
    nowMs(),
  );
  if (decision.state === 'none') return null;
  const isNext = 'isNew' in decision && decision.isNew;
  const n = (newest?.correction ?? 0) + 1;
  const base: ReportBackRow =
    !isNext && newest
      ? newest
      : {
          ...before,
          id: correctionIdOf(before.id, n),
          correction: n,
          reason: null,
          stoppedBy: '',
          letGoBy: '',
          toldMinor: null,
          answeredAt: null,
          bookedOn: null,
          confirmedAt: null,
          dueAt: null,
          madeAt: now(),
        };
  return {
    ...base,
    state: decision.state,
    reason: decision.state === 'waiting' ? (base.state === 'waiting' ? base.reason : null) : decision.reason,
    tellsMinor: worth,
    dueAt: decision.state === 'waiting' ? (base.dueAt ?? now()) : null,
  };
}

import type { OutcomeRule, StageChange } from './schema';

/** The stages of a pipeline in order, and those at which a deal has ended without going on. */
export interface Stages {
  inOrder: string[];
  ended: string[];
}

/** A pipeline without stages: that of a business without a CRM. */
export const noStages: Stages = { inOrder: [], ended: [] };

/** Whether a deal at `stage` has reached `wanted`: at it or at any later one, and not ended. A stage skipped is reached. */
export function isReached(wanted: string, stage: string, { inOrder, ended }: Stages): boolean {
  const from = inOrder.indexOf(wanted);
  return from >= 0 && !ended.includes(stage) && inOrder.indexOf(stage) >= from;
}

/**
 * The stage that a deal left an outcome's for within the delay of its telling, and where it still is; null where it went
 * on, came back, or left later: an outcome that stood that long is told. Outcomes that no stage reaches are never left.
 *
 * @param happenedAt when the outcome was reached (ms)
 * @param delay ms
 */
export function leftWithin(
  { reachedBy }: OutcomeRule,
  changes: StageChange[],
  stages: Stages,
  happenedAt: number,
  delay: number,
): string | null {
  if (reachedBy.kind !== 'stage') return null;
  const holds = ({ stage }: StageChange) => isReached(reachedBy.stage, stage, stages);
  const since = changes.filter(({ at }) => at > happenedAt).sort((a, b) => a.at - b.at);
  const last = since.at(-1);
  if (!last || holds(last)) return null;
  // Where it last left for good.
  const left = since[since.findLastIndex(holds) + 1]!;
  return left.at - happenedAt < delay ? last.stage : null;
}

/**
 * The last stage before an outcome's own that a deal reached while a click was young enough to be told, so that counting it
 * would have come in time; null where there is none, or where no stage reaches the outcome.
 *
 * @param clickedAt ms
 * @param clickDays how old the click may be
 */
export function reachedInTime(
  { reachedBy, clickDays: ownLimit }: OutcomeRule,
  changes: readonly StageChange[],
  { inOrder, ended }: Stages,
  clickedAt: number,
  clickDays: number,
): { stage: string; days: number } | null {
  if (reachedBy.kind !== 'stage') return null;
  const own = inOrder.indexOf(reachedBy.stage);
  const days = ({ at }: StageChange) => Math.floor((at - clickedAt) / 86_400_000);
  const inTime = changes
    .filter(({ stage, at }) => !ended.includes(stage) && inOrder.indexOf(stage) < own && at >= clickedAt)
    .filter((change) => inOrder.includes(change.stage) && days(change) < Math.min(ownLimit, clickDays))
    .sort((a, b) => inOrder.indexOf(b.stage) - inOrder.indexOf(a.stage) || a.at - b.at);
  return inTime[0] ? { stage: inTime[0].stage, days: days(inTime[0]) } : null;
}

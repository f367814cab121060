import type { OutcomeRule, StageChange } from './schema';

/** The stages of a pipeline in order, and those at which a deal has ended without going on. */
export interface Stages {
  inOrder: string[];
  ended: string[];
}

export interface Reached {
  at: number;
  /** The stage at which it was reached: the outcome's own or a later one. */
  stage: string;
  /** True when the outcome's own stage was passed over. */
  skipped: boolean;
}

/**
 * When a deal first reached an outcome's stage or any later one: going back and forth counts once,
 * a stage skipped is reached. Changes may come in any order. Null while it has not.
 */
export function firstReached(rule: OutcomeRule, changes: StageChange[], stages: Stages): Reached | null {
  const wanted = stages.inOrder.indexOf(rule.stage);
  if (wanted < 0) return null;
  const reaching = changes
    .filter((c) => !stages.ended.includes(c.stage) && stages.inOrder.indexOf(c.stage) >= wanted)
    // Of stages reached in the same millisecond the earlier one comes first: a deal goes through it.
    .sort((a, b) => a.at - b.at || stages.inOrder.indexOf(a.stage) - stages.inOrder.indexOf(b.stage));
  const first = reaching[0];
  return first ? { at: first.at, stage: first.stage, skipped: first.stage !== rule.stage } : null;
}

/**
 * The stage that a deal left an outcome's for within the delay of its telling, and where it still is; null where it went
 * on, came back, or left later: an outcome that stood that long is told.
 *
 * @param happenedAt when the outcome was reached (ms)
 * @param delay ms
 */
export function leftWithin(
  rule: OutcomeRule,
  changes: StageChange[],
  stages: Stages,
  happenedAt: number,
  delay: number,
): string | null {
  const holds = ({ stage }: StageChange) => firstReached(rule, [{ stage, at: 0 }], stages) !== null;
  const since = changes.filter(({ at }) => at > happenedAt).sort((a, b) => a.at - b.at);
  const last = since.at(-1);
  if (!last || holds(last)) return null;
  // Where it last left for good.
  const left = since[since.findLastIndex(holds) + 1]!;
  return left.at - happenedAt < delay ? last.stage : null;
}

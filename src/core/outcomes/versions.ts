import { sameRule } from '../rules/same';
import type { OutcomeRule } from './schema';

/** What an outcome means: what reaches it, what it is worth, what it is counted once for, how old its click may be. */
const meaningOf = ({ reachedBy, worth, countedOnceFor, clickDays }: OutcomeRule) => ({
  reachedBy,
  worth,
  countedOnceFor,
  clickDays,
});

/**
 * The outcomes of a new release with their versions: one that means something else than before gets the next number, also one
 * that comes back under a code that was counted once. What people call it is no meaning. What was counted by an earlier
 * version stays as it was counted.
 *
 * @param live those of the release before
 * @param counted the highest version that anything was ever counted by, by code
 */
export function numberVersions(
  next: readonly OutcomeRule[],
  live: readonly OutcomeRule[],
  counted: ReadonlyMap<string, number>,
): OutcomeRule[] {
  const before = new Map(live.map((rule) => [rule.code, rule]));
  return next.map((rule) => {
    const was = before.get(rule.code);
    if (was && sameRule(meaningOf(was), meaningOf(rule))) return { ...rule, version: was.version };
    return { ...rule, version: Math.max(was?.version ?? 0, counted.get(rule.code) ?? 0) + 1 };
  });
}

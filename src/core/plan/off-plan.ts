import type { LinkContract } from '../platforms/contract';
import { checkValue, isLeft, meaningOf, ruleOf, type ValueProblem } from './check';
import type { Plan } from './schema';

/** How often a value of a tag arrived, and with what. */
export interface ArrivedValue {
  tag: string;
  value: string;
  arrivals: number;
  /** The commonest referrer host, '' without one, and the commonest campaign beside it. */
  host: string;
  campaign: string;
  firstAt: number;
  lastAt: number;
}

export interface OffPlanValue extends ArrivedValue {
  problems: ValueProblem[];
  /** The planned value it should have been, or null where none is near. */
  nearest: string | null;
}

/**
 * Values that arrived although the plan does not know them, those that arrived most often first.
 * @param platforms whose placeholders should have been filled in
 */
export function findOffPlan(plan: Plan, arrived: ArrivedValue[], platforms: readonly LinkContract[]): OffPlanValue[] {
  return arrived
    .flatMap((one) => {
      const rule = ruleOf(plan, one.tag);
      if (!rule || isLeft(plan, one.tag, one.value)) return [];
      if (meaningOf(plan, one.tag, one.value) !== one.value) return [];
      // What a platform should have filled in at the click came as it was written.
      if (platforms.some(({ placeholders }) => placeholders.some(({ text }) => one.value.includes(text))))
        return [{ ...one, problems: ['placeholder' as const], nearest: null }];
      const { problems, repaired } = checkValue(plan, rule, one.value);
      return problems.length === 0 ? [] : [{ ...one, problems, nearest: repaired }];
    })
    .sort((a, b) => b.arrivals - a.arrivals || a.value.localeCompare(b.value));
}

/** What a change of the plan does to values: those that would no longer fit, and those that would fit now. */
export function comparePlans(before: Plan, after: Plan, arrived: ArrivedValue[], platforms: readonly LinkContract[]) {
  const key = ({ tag, value }: ArrivedValue) => `${tag} ${value}`;
  const offBefore = new Map(findOffPlan(before, arrived, platforms).map((one) => [key(one), one]));
  const offAfter = new Map(findOffPlan(after, arrived, platforms).map((one) => [key(one), one]));
  return {
    noLongerFits: [...offAfter.values()].filter((one) => !offBefore.has(key(one))),
    takenIn: [...offBefore.values()].filter((one) => !offAfter.has(key(one))),
    off: [...offAfter.values()],
  };
}

/** How often each planned value arrived, aliases read as what they mean, for one tag. */
export function countByMeaning(plan: Plan, tag: string, arrived: ArrivedValue[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const one of arrived) {
    if (one.tag !== tag) continue;
    const means = meaningOf(plan, tag, one.value);
    counts.set(means, (counts.get(means) ?? 0) + one.arrivals);
  }
  return counts;
}

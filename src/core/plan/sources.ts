import type { Plan, PlannedValue, SourceRule, TagRule } from './schema';

/** What a source prescribes, as tags with their values. */
export const fixedTags = ({ fixed }: Pick<SourceRule, 'fixed'>): [tag: string, value: string][] =>
  fixed.map((pair) => {
    const at = pair.indexOf('=');
    return [pair.slice(0, at), pair.slice(at + 1)];
  });

/** The rule of a source; undefined where the plan says nothing of it. */
export const sourceRule = (plan: Pick<Plan, 'sources'>, source: string): SourceRule | undefined =>
  plan.sources.find((rule) => rule.source === source);

/**
 * The plan with the campaigns of the register as the values of campaign names: they are picked, and a name that is not in
 * the register is off plan. A register without campaigns leaves the plan as it is: names are then judged by their
 * pattern alone.
 */
export function withCampaigns<P extends Plan>(plan: P, campaigns: PlannedValue[]): P {
  if (campaigns.length === 0) return plan;
  const tags = plan.tags.map((rule) =>
    rule.named ? { ...rule, entry: 'picked' as const, values: [...rule.values, ...campaigns] } : rule,
  );
  return { ...plan, tags };
}

/** What a link's tags become when another source is picked: what it prescribes, and its medium where it has just one. */
export function withSource(
  plan: Pick<Plan, 'sources'>,
  tags: Record<string, string>,
  source: string,
): Record<string, string> {
  const before = sourceRule(plan, tags.utm_source ?? '');
  const after = sourceRule(plan, source);
  // What only the source before prescribed goes with it.
  const left = new Set((before ? fixedTags(before) : []).flatMap(([tag, value]) => (tags[tag] === value ? [tag] : [])));
  const kept = Object.fromEntries(Object.entries(tags).filter(([tag]) => !left.has(tag)));
  const medium: Record<string, string> =
    !kept.utm_medium && after?.mediums.length === 1 ? { utm_medium: after.mediums[0]! } : {};
  return { ...kept, ...medium, ...Object.fromEntries(after ? fixedTags(after) : []), utm_source: source };
}

/** The values of a tag that go with the other tags of a link: media of its source, or sources of its medium. */
export function valuesBeside(plan: Pick<Plan, 'sources'>, rule: TagRule, tags: Record<string, string>): PlannedValue[] {
  const { utm_source: source = '', utm_medium: medium = '' } = tags;
  const mediums = sourceRule(plan, source)?.mediums ?? [];
  if (rule.tag === 'utm_medium' && mediums.length > 0)
    return rule.values.filter(({ value }) => mediums.includes(value));
  if (rule.tag !== 'utm_source' || medium === '' || source !== '') return rule.values;
  const fits = (value: string) => {
    const own = sourceRule(plan, value)?.mediums ?? [];
    return own.length === 0 || own.includes(medium);
  };
  return rule.values.filter(({ value }) => fits(value));
}

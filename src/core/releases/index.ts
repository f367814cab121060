import type { CaptureRules } from '../capture/schema';
import type { OutcomeRule, TellingRule } from '../outcomes/schema';
import { meaningOf, ruleOf } from '../plan/check';
import type { VisitorRules } from '../strands/visitor';
import type { Release, ReleaseContent } from './schema';

export * from './rules';
export * from './upgrade';

export type { Release, ReleaseContent } from './schema';

/** The rules the snippet works by. */
export function captureRules(release: Release): CaptureRules {
  return release.content.capture;
}

/** What a visitor's rows are derived by. */
export function visitorRules(release: Release): VisitorRules {
  return rulesOfContent(release.content);
}

/** The same of a release's content, which may not be live yet. */
export const rulesOfContent = ({ capture, plan, noCustomer }: ReleaseContent): VisitorRules => ({
  ...capture,
  tags: plan.tags.map(({ tag }) => tag),
  noCustomerHosts: noCustomer.hosts,
});

/** The outcome that is the Qualified hop of enquiries by form. Throws where a release names one it does not hold. */
export function qualifiedOutcome(release: Release): OutcomeRule {
  const code = release.content.qualified.form;
  const rule = release.content.outcomes.find((o) => o.code === code);
  if (!rule) throw new Error(`release ${release.number} names ${code} as qualified but does not hold it`);
  return rule;
}

/** Which platforms are told of an outcome, and how. */
export function tellingRules(release: Release, outcome: string): TellingRule[] {
  return release.content.telling.filter((rule) => rule.outcome === outcome);
}

/** Where something came from, in words: "Paid search on Quillsearch", "Newsletter", "direct". Aliases are applied. */
export function originWords({ content: { plan } }: Release, source: string, medium: string, referrer = ''): string {
  const labelOf = (tag: string, value: string) => {
    const means = meaningOf(plan, tag, value);
    return ruleOf(plan, tag)?.values.find((planned) => planned.value === means)?.label || means;
  };
  const from = labelOf('utm_source', source);
  const by = labelOf('utm_medium', medium);
  const means = meaningOf(plan, 'utm_medium', medium);
  const joins = plan.channels.find((channel) => channel.medium === means)?.joins ?? 'on';
  if (by && from) return by === from ? by : `${by} ${joins} ${from}`;
  if (by || from) return by || from;
  return referrer ? `Link on ${referrer.split('/')[0]}` : 'not known';
}

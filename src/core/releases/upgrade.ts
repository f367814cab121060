import type { OutcomeRule } from '../outcomes/schema';
import { firstPlan, tagRule } from '../plan/first-plan';
import type { Plan } from '../plan/schema';

interface BeforePlan {
  words: {
    sources: { source: string; words: string }[];
    mediums: { medium: string; words: string; joins: 'on' | 'in' | 'through'; paid: boolean }[];
  };
}

/**
 * The content of a stored release as today's schema has it. A release never changes, but what it says can be said in a
 * newer form: before there was a plan, words for sources and media stood by themselves; before it was refused, a win
 * rate could be over 1, and is read as 1.
 */
export function upgradeContent(stored: unknown): unknown {
  if (typeof stored !== 'object' || stored === null) return stored;
  const content = withRatesUpToOne(stored);
  if (!('words' in content)) return content;
  const { words, ...rest } = content as BeforePlan;
  return { ...rest, plan: planFromWords(words) };
}

function withRatesUpToOne(stored: object): object {
  const { outcomes = [] } = stored as { outcomes?: OutcomeRule[] };
  if (!outcomes.some(({ worth }) => worth.winRate.won > worth.winRate.of)) return stored;
  const upToOne = ({ winRate, ...worth }: OutcomeRule['worth']): OutcomeRule['worth'] => ({
    ...worth,
    winRate: { won: Math.min(winRate.won, winRate.of), of: winRate.of },
  });
  return { ...stored, outcomes: outcomes.map((rule) => ({ ...rule, worth: upToOne(rule.worth) })) };
}

function planFromWords({ sources, mediums }: BeforePlan['words']): Plan {
  const plan = firstPlan();
  const values: Record<string, { value: string; label: string }[]> = {
    utm_source: sources.map(({ source, words }) => ({ value: source, label: words })),
    utm_medium: mediums.map(({ medium, words }) => ({ value: medium, label: words })),
  };
  return {
    ...plan,
    tags: plan.tags.map((rule) => tagRule(rule.tag, rule.name, { ...rule, values: values[rule.tag] ?? [] })),
    channels: mediums.map(({ medium, words, joins, paid }) => ({
      medium,
      channel: words || medium,
      crmTypes: [],
      media: paid ? 'paid' : 'owned',
      tracked: true,
      joins,
    })),
  };
}

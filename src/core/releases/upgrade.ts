import type { OutcomeRule, TellingRule } from '../outcomes/schema';
import { firstPlan, tagRule } from '../plan/first-plan';
import type { Plan } from '../plan/schema';

interface BeforePlan {
  words: {
    sources: { source: string; words: string }[];
    mediums: { medium: string; words: string; joins: 'on' | 'in' | 'through'; paid: boolean }[];
  };
}

/** Outcomes as they were when only a stage could reach one, worth what was expected of it. */
interface StageOutcome extends Omit<OutcomeRule, 'reachedBy' | 'worth'> {
  stage?: string;
  worth: Extract<OutcomeRule['worth'], { kind: 'expected' }>;
}

/**
 * The content of a stored release as today's schema has it. A release never changes, but what it says can be said in a
 * newer form: before there was a plan, words for sources and media stood by themselves; before orders, each outcome named
 * its stage, with a win rate that once could be over 1 and is read as 1; before several accounts of a kind, a telling rule
 * named the platform, whose account went by the same key; before outcomes said what they are to the business, what reaches
 * them said it.
 */
export function upgradeContent(stored: unknown): unknown {
  if (typeof stored !== 'object' || stored === null) return stored;
  const content = withAccounts(withKinds(withReachedBy(stored)));
  if (!('words' in content)) return content;
  const { words, ...rest } = content as BeforePlan;
  return { ...rest, plan: planFromWords(words) };
}

function withReachedBy(stored: object): object {
  const { outcomes = [] } = stored as { outcomes?: StageOutcome[] };
  if (!outcomes.some((rule) => 'stage' in rule)) return stored;
  const upToOne = ({ winRate, ...worth }: StageOutcome['worth']): StageOutcome['worth'] => ({
    ...worth,
    winRate: { won: Math.min(winRate.won, winRate.of), of: winRate.of },
  });
  return {
    ...stored,
    outcomes: outcomes.map(({ stage, ...rule }) =>
      stage === undefined ? rule : { ...rule, reachedBy: { kind: 'stage', stage }, worth: upToOne(rule.worth) },
    ),
  };
}

/** What an outcome is to a business by what reaches it, of those that were written before anybody said. */
const usualKind: Record<OutcomeRule['reachedBy']['kind'], OutcomeRule['kind']> = {
  stage: 'enquiry',
  field: 'enquiry',
  order: 'payment',
  postback: 'payment',
  event: 'interest',
  page: 'interest',
  file: 'agreement',
};

function withKinds(stored: object): object {
  const { outcomes = [] } = stored as { outcomes?: (Omit<OutcomeRule, 'kind'> & Partial<Pick<OutcomeRule, 'kind'>>)[] };
  if (outcomes.every(({ kind }) => kind !== undefined)) return stored;
  return { ...stored, outcomes: outcomes.map((rule) => ({ kind: usualKind[rule.reachedBy.kind], ...rule })) };
}

function withAccounts(stored: object): object {
  const { telling = [] } = stored as { telling?: (Omit<TellingRule, 'account'> & { account?: string })[] };
  if (!telling.some(({ account }) => account === undefined)) return stored;
  return { ...stored, telling: telling.map((rule) => ({ account: rule.platform, ...rule })) };
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

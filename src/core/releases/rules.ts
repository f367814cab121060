import type { z } from 'zod';
import {
  aliasSentence,
  channelSentence,
  checkChannel,
  checkNaming,
  checkTagRule,
  namingSentence,
  outcomeCodesSentence,
  referrerSentence,
  tagDetails,
  tagSentence,
  type NamingProblem,
  type Plan,
} from '../plan';
import { captureRuleKinds } from './capture-rules';
import type { ReleaseContent } from './schema';

/** Which rule of a release: its kind, and its own name among those of the kind, '' where there is only one. */
export interface RuleName {
  kind: RuleKindName;
  id: string;
}

/** A rule as the draft changes it; null takes it out. */
export interface RuleChange extends RuleName {
  value: unknown;
}

/** One kind of rule: where it stands in a release, how it reads as a sentence, and what keeps it from being used. */
export interface RuleKind<T> {
  station: 'Plan' | 'Capture';
  /** A rule's own name; '' where there is one of the kind. */
  idOf(value: T): string;
  read(content: ReleaseContent): [id: string, value: T][];
  /** Puts a rule in its place, at the end where it is new; null takes it out. */
  write(content: ReleaseContent, id: string, value: T | null): ReleaseContent;
  sentence(value: T): string;
  /** What else differs between two of it, a sentence each. */
  details?(before: T, after: T): string[];
  /** What is wrong with it in the content it would stand in. */
  check(value: T, content: ReleaseContent): NamingProblem[];
}

/** Rules that stand in a list of the plan, each with a name of its own. */
function listed<K extends 'tags' | 'channels' | 'referrers' | 'aliases'>(
  list: K,
  idOf: (value: Plan[K][number]) => string,
  rest: Pick<RuleKind<Plan[K][number]>, 'sentence' | 'check' | 'details'>,
): RuleKind<Plan[K][number]> {
  type Rule = Plan[K][number];
  const all = ({ plan }: ReleaseContent) => plan[list] as Rule[];
  return {
    station: 'Plan',
    idOf,
    read: (content) => all(content).map((value) => [idOf(value), value]),
    write(content, id, value) {
      const others = all(content);
      const at = others.findIndex((one) => idOf(one) === id);
      const rules = at < 0 ? [...others] : others.filter((_, index) => index !== at);
      if (value) rules.splice(at < 0 ? rules.length : at, 0, value);
      return { ...content, plan: { ...content.plan, [list]: rules } };
    },
    ...rest,
  };
}

/** A rule of which a plan has just one. */
function single<K extends 'naming' | 'outcomeCodes'>(
  key: K,
  rest: Pick<RuleKind<Plan[K]>, 'sentence' | 'check'>,
): RuleKind<Plan[K]> {
  return {
    station: 'Plan',
    idOf: () => '',
    read: ({ plan }) => [['', plan[key]]],
    write: (content, _id, value) => (value ? { ...content, plan: { ...content.plan, [key]: value } } : content),
    ...rest,
  };
}

export const aliasId = ({ tag, value }: { tag: string; value: string }) => `${tag}=${value}`;

/** Every kind of rule that can be changed in the draft. */
export const ruleKinds = {
  tag: listed('tags', ({ tag }) => tag, {
    sentence: tagSentence,
    check: (rule) => checkTagRule(rule),
    details: tagDetails,
  }),
  naming: single('naming', { sentence: namingSentence, check: (rule) => checkNaming(rule) }),
  channel: listed('channels', ({ medium }) => medium, {
    sentence: channelSentence,
    check: (rule, { plan }) => checkChannel(rule, plan),
  }),
  referrer: listed('referrers', ({ host }) => host, { sentence: referrerSentence, check: () => [] }),
  alias: listed('aliases', aliasId, { sentence: aliasSentence, check: () => [] }),
  outcome_codes: single('outcomeCodes', { sentence: outcomeCodesSentence, check: () => [] }),
  ...captureRuleKinds,
};
export type RuleKindName = keyof typeof ruleKinds;
export type RuleSchemas = Record<RuleKindName, z.ZodType>;

export const isRuleKind = (kind: string): kind is RuleKindName => Object.hasOwn(ruleKinds, kind);

/** The kind with its value's type forgotten: callers hold values that its schema has let through. */
export const ruleKind = (kind: RuleKindName) => ruleKinds[kind] as unknown as RuleKind<unknown>;

/** A rule's value in a release; null where the release has none of that name. */
export function readRule(content: ReleaseContent, { kind, id }: RuleName): unknown {
  return (
    ruleKind(kind)
      .read(content)
      .find(([known]) => known === id)?.[1] ?? null
  );
}

/** The content of a release with changes made to it. */
export function applyChanges(content: ReleaseContent, changes: RuleChange[]): ReleaseContent {
  return changes.reduce((before, { kind, id, value }) => ruleKind(kind).write(before, id, value), content);
}

/** A rule's sentence; null where there is no rule. */
export const ruleSentence = (kind: RuleKindName, value: unknown): string | null =>
  value === null ? null : ruleKind(kind).sentence(value);

/** What differs between two forms of a rule that its sentences do not say. */
export const ruleDetails = (kind: RuleKindName, before: unknown, after: unknown): string[] =>
  before === null || after === null ? [] : (ruleKind(kind).details?.(before, after) ?? []);

import type { CaptureRules } from '../capture/schema';
import { quoteValue } from '../quote-value';
import {
  checkValue,
  fixedTags,
  meaningOf,
  ruleOf,
  sourceRule,
  withCampaigns,
  type Plan,
  type PlannedValue,
} from '../plan';
import { problemWords } from '../plan/words';
import type { LinkContract } from '../platforms/contract';
import { linksOf } from '../platforms/links';
import type { OwnPlatform } from '../platforms/schema';
import { pairsOf, type TagNames, type TagValue } from './link';
import { placeholdersIn, placeholdersOf } from './placeholders';

/** What is wrong with a link; `repaired` is the link's value that would be right, where one is known. */
export interface LinkProblem {
  /** The tag or query name it concerns, '' for the link as a whole. */
  tag: string;
  code:
    | 'doubled'
    | 'name_letters'
    | 'old_name'
    | 'value'
    | 'missing'
    | 'fixed'
    | 'medium'
    | 'placeholder'
    | 'personal'
    | 'encoding'
    | 'after_hash'
    | 'question_marks'
    | 'spaces'
    | 'long';
  words: string;
  repaired: string | null;
}

/** What links are held against. */
export interface LinkPlan extends Plan {
  /** The kind of platform that a source is, by the source's value. */
  platformOf: Record<string, string>;
  /** Every platform whose links are known. */
  platforms: LinkContract[];
  /** Under which names tags stand in links. */
  names: TagNames;
}

/**
 * What links are held against, from the rules that are live and the register's campaigns. A source is a platform where
 * the rule of its click ID says so, or where it is called as the kind is.
 */
export function linkPlan(
  {
    plan,
    capture,
    platforms,
  }: {
    plan: Plan;
    platforms: OwnPlatform[];
    capture: Pick<CaptureRules, 'tagCarry'> & { keep: Pick<CaptureRules['keep'], 'clickIds'> };
  },
  campaigns: PlannedValue[],
): LinkPlan {
  const known = linksOf(platforms);
  const byName = known.map(({ kind }) => [kind, kind] as const);
  const byClickId = capture.keep.clickIds.flatMap(({ source, platform }) =>
    source ? [[source, platform] as const] : [],
  );
  const names: TagNames = {};
  for (const { tag } of capture.tagCarry) {
    const own = capture.tagCarry.filter((rule) => rule.tag === tag);
    const written = own.filter((rule) => rule.written).map(({ name }) => name);
    names[tag] = [...written, tag, ...own.filter((rule) => !rule.written).map(({ name }) => name)];
  }
  return {
    ...withCampaigns(plan, campaigns),
    names,
    platforms: known,
    platformOf: Object.fromEntries([...byName, ...byClickId]),
  };
}

/** What is wrong with each tag by its own rule; values that a platform fills in are left aside. */
function checkEach(plan: LinkPlan, given: Map<string, string>): LinkProblem[] {
  return plan.tags.flatMap((rule): LinkProblem[] => {
    const value = given.get(rule.tag) ?? '';
    if (placeholdersIn(value, plan.platforms).length > 0) return [];
    const { problems, repaired } = checkValue(plan, rule, value);
    if (problems.length === 0) return [];
    const words =
      problems[0] === 'missing'
        ? `${problemWords('missing', rule)}.`
        : `${rule.name} ${quoteValue(value)}: ${problems.map((problem) => problemWords(problem, rule)).join(', ')}.`;
    // A source that goes with one medium says which.
    const only = problems[0] === 'missing' && rule.tag === 'utm_medium' ? onlyMedium(plan, given) : null;
    const code = problems[0] === 'missing' ? 'missing' : problems.includes('personal') ? 'personal' : 'value';
    return [{ tag: rule.tag, code, words, repaired: only ?? repaired }];
  });
}

/** The medium that a link's source goes with, where it is just one. */
function onlyMedium(plan: Plan, given: Map<string, string>): string | null {
  const mediums = sourceRule(plan, meaningOf(plan, 'utm_source', given.get('utm_source') ?? ''))?.mediums ?? [];
  return mediums.length === 1 ? mediums[0]! : null;
}

/** What the source's own rule says of the other tags: the media it goes with, and what it prescribes. */
function checkSourceOf(plan: LinkPlan, given: Map<string, string>): LinkProblem[] {
  const source = meaningOf(plan, 'utm_source', given.get('utm_source') ?? '');
  const rule = sourceRule(plan, source);
  if (!rule) return [];
  const name = ruleOf(plan, 'utm_source')?.values.find(({ value }) => value === source)?.label || source;
  const prescribed = fixedTags(rule).flatMap(([tag, value]): LinkProblem[] => {
    if ((given.get(tag) ?? '') === value) return [];
    const words = `${ruleOf(plan, tag)?.name ?? tag} is always ${quoteValue(value)} for ${name}.`;
    return [{ tag, code: 'fixed', words, repaired: value }];
  });
  const medium = meaningOf(plan, 'utm_medium', given.get('utm_medium') ?? '');
  if (medium === '' || rule.mediums.length === 0 || placeholdersIn(medium, plan.platforms).length > 0)
    return prescribed;
  if (rule.mediums.includes(medium)) return prescribed;
  const words = `${name} goes with ${rule.mediums.map((one) => quoteValue(one)).join(' or ')}, not with ${quoteValue(medium)}.`;
  const repaired = rule.mediums.length === 1 ? rule.mediums[0]! : null;
  return [...prescribed, { tag: 'utm_medium', code: 'medium', words, repaired }];
}

/** Placeholders that nobody fills in: those of another platform than the link's source. */
function checkPlaceholders({ platformOf, platforms }: LinkPlan, pairs: TagValue[]): LinkProblem[] {
  const source = pairs.find(([tag]) => tag === 'utm_source')?.[1] ?? '';
  if (source === '' || placeholdersIn(source, platforms).length > 0) return [];
  const platform = platformOf[source] ?? '';
  return pairs.flatMap(([tag, value]): LinkProblem[] => {
    const foreign = placeholdersIn(value, platforms).find((one) => one.platform !== platform);
    if (!foreign) return [];
    const same = placeholdersOf(platforms).find((one) => one.platform === platform && one.words === foreign.words);
    const repaired = same ? value.replaceAll(foreign.text, same.text) : null;
    const words = `${quoteValue(foreign.text)} is filled in by ${platforms.find(({ kind }) => kind === foreign.platform)!.words} only, and the source is ${quoteValue(source)}.`;
    return [{ tag, code: 'placeholder', words, repaired }];
  });
}

/**
 * What is wrong with a link by the plan: each tag by its own rule, all of them by the source's, and placeholders that no
 * platform would fill in. A tag has one problem at most; what its source prescribes goes first.
 *
 * @param others what else stands in the link's query
 */
export function checkTags(plan: LinkPlan, tags: TagValue[], others: TagValue[] = []): LinkProblem[] {
  const given = new Map(tags);
  const bySource = checkSourceOf(plan, given);
  const fixed = new Set(bySource.filter(({ code }) => code === 'fixed').map(({ tag }) => tag));
  const each = checkEach(plan, given).filter(({ tag }) => !fixed.has(tag));
  const wrong = new Set(each.map(({ tag }) => tag));
  const rest = [...bySource.filter(({ tag }) => !wrong.has(tag)), ...checkPlaceholders(plan, [...tags, ...others])];
  const order = plan.tags.map(({ tag }) => tag);
  const place = ({ tag }: LinkProblem) => (order.includes(tag) ? order.indexOf(tag) : order.length);
  return [...each, ...rest].sort((a, b) => place(a) - place(b));
}

/** Tags that stand in a link under another name than the one that links are made with now. */
export function checkNames({ names }: LinkPlan, link: string): LinkProblem[] {
  const written = new Set(pairsOf(new URL(link).search.slice(1)).map(({ name }) => name));
  return Object.entries(names).flatMap(([tag, [now = tag, ...others]]): LinkProblem[] =>
    others
      .filter((name) => written.has(name))
      .map((name) => ({
        tag,
        code: 'old_name',
        repaired: null,
        words: `It says ${quoteValue(name)}; links are made with ${quoteValue(now)} now. Both are read.`,
      })),
  );
}

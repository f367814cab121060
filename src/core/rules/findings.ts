import { platformName } from '../platforms/links';
import type { ReleaseContent } from '../releases/schema';
import { sameRule } from './same';
import { readRule, ruleKind, ruleKinds, ruleSentence, type RuleKindName, type RuleName } from './index';

/** Something wrong with the rules of a release as a whole: `stops` keeps it from going live, `warns` is said. */
export interface ContentFinding {
  weighs: 'stops' | 'warns';
  /** The rule that it is about; null where it is none that can be changed here. */
  rule: RuleName | null;
  was: string;
  fix: string;
}

/** What people call a rule of a kind by its own name. */
const called = ({ kind, id }: { kind: string; id: string }, content: ReleaseContent): string =>
  ruleKind(kind as RuleKindName).calls?.(id, content) ?? `the rule “${id || kind}”`;

/**
 * Everything that is wrong with the rules of a release: each rule by its own check, rules that need another one which is
 * not there, and outcomes that are told to a platform whose click ID nobody keeps.
 */
export function findingsOf(content: ReleaseContent): ContentFinding[] {
  const found: ContentFinding[] = [];
  for (const kind of Object.keys(ruleKinds) as RuleKindName[]) {
    const { at, check, refs } = ruleKind(kind);
    for (const [id, rule] of at.read(content)) {
      const name = { kind, id };
      const sentence = ruleSentence(kind, rule, content)!;
      for (const { was, fix, weighs = 'stops' } of check?.(rule, content) ?? [])
        found.push({ weighs, rule: name, was: `“${sentence}”: ${was}`, fix });
      for (const { weighs = 'stops', ...needed } of refs?.(rule) ?? [])
        if (readRule(content, needed as RuleName) === null)
          found.push({
            weighs,
            rule: name,
            was: `“${sentence}” needs ${called(needed, content)}, which is not there`,
            fix: 'Change that rule first, or in the same go.',
          });
    }
  }
  const kept = new Set(content.capture.keep.clickIds.map(({ platform }) => platform));
  for (const platform of new Set(content.telling.map((one) => one.platform)))
    if (!kept.has(platform)) {
      const outcomes = content.telling.filter((one) => one.platform === platform).map(({ outcome }) => outcome);
      found.push({
        weighs: 'warns',
        rule: null,
        was: `${platformName(platform, content.platforms)} is told ${outcomes.join(', ')} by its click ID, which no rule keeps: it can be told nothing`,
        fix: `Keep the click ID of ${platformName(platform, content.platforms)}.`,
      });
    }
  return found;
}

/** What is wrong with rules that was not wrong with those before. */
export function newFindings(before: ReleaseContent, after: ReleaseContent): ContentFinding[] {
  const known = new Set(findingsOf(before).map(({ was }) => was));
  return findingsOf(after).filter(({ was }) => !known.has(was));
}

/** A rule that two releases have otherwise; null where one of them has none. */
export interface RuleDifference extends RuleName {
  before: unknown;
  after: unknown;
}

/** The rules in which two releases differ. */
export function differenceOf(before: ReleaseContent, after: ReleaseContent): RuleDifference[] {
  return (Object.keys(ruleKinds) as RuleKindName[]).flatMap((kind) => {
    const { at } = ruleKind(kind);
    const [was, is] = [new Map(at.read(before)), new Map(at.read(after))];
    return [...new Set([...was.keys(), ...is.keys()])].flatMap((id): RuleDifference[] => {
      const [one, other] = [was.get(id) ?? null, is.get(id) ?? null];
      return sameRule(one, other) ? [] : [{ kind, id, before: one, after: other }];
    });
  });
}

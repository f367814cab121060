import { piiIn } from '../capture/pii';
import { distance } from 'fastest-levenshtein';
import type { Plan, PlannedValue, TagRule } from './schema';
import { readName } from './names';
import { fitsPattern } from './pattern';

/** What is wrong with a value; codes, so that words are made in one place. */
export type ValueProblem =
  | 'missing'
  | 'alias'
  | 'letters'
  | 'separator'
  | 'too_long'
  | 'unknown'
  | 'pattern'
  | 'name'
  | 'control'
  | 'personal'
  | 'placeholder';

export interface ValueCheck {
  problems: ValueProblem[];
  /** A value that fits the rule and stands close to what was given; null where none is known. */
  repaired: string | null;
}

const control = /[\u0000-\u001f\u007f]/;

/** Letters and digits only, small: what two spellings of one value have in common. */
export const foldValue = (value: string): string =>
  value
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}]/gu, '');

/** Characters of code; what holds them has no better spelling. */
const markup = /[<>"'`(){}[\]\\]/;

/** A value's words: cut at separators, spaces and where a capital follows a small letter. */
const wordsOf = (value: string): string[] =>
  value
    .normalize('NFC')
    .replace(/(\p{Ll}|\p{N})(\p{Lu})/gu, '$1 $2')
    .split(/[\s_.,+~/|-]+/)
    .filter(Boolean);

function withLetters(value: string, letters: TagRule['letters']): string {
  return letters === 'lower' ? value.toLowerCase() : letters === 'upper' ? value.toUpperCase() : value;
}

/** A rule's values as they are looked for: registers are long, and thousands of values are held against them. */
interface Lookup {
  values: ReadonlySet<string>;
  folded: readonly { value: string; folded: string; label: string }[];
}
const lookups = new WeakMap<readonly PlannedValue[], Lookup>();

function lookupOf({ values }: Pick<TagRule, 'values'>): Lookup {
  const known = lookups.get(values) ?? {
    values: new Set(values.map(({ value }) => value)),
    folded: values.map(({ value, label }) => ({ value, folded: foldValue(value), label: foldValue(label) })),
  };
  lookups.set(values, known);
  return known;
}

/** What is wrong with a value by the rule alone; an allowed value is right however it is written. */
function problemsOf(plan: Pick<Plan, 'naming'>, rule: TagRule, value: string): ValueProblem[] {
  if (value === '') return rule.required ? ['missing'] : [];
  if (lookupOf(rule).values.has(value)) return [];
  const problems: ValueProblem[] = [];
  if (control.test(value)) problems.push('control');
  if (piiIn(value)) problems.push('personal');
  // A value that is to be picked has no letters of its own: either it is listed or it is not.
  if (rule.entry === 'picked') return [...problems, 'unknown'];
  if (withLetters(value, rule.letters) !== value) problems.push('letters');
  if (rule.separator && /[\s_.,+~/|-]/.test(value.replaceAll(rule.separator, ''))) problems.push('separator');
  if (value.length > rule.longest) problems.push('too_long');
  if (rule.pattern && !fitsPattern(rule.pattern, value)) problems.push('pattern');
  if (rule.named && plan.naming.pattern && !readName(plan.naming, value)) problems.push('name');
  return problems;
}

/** The planned value closest to what was given: the same letters and digits, else at most two slips in seven or more. */
function nearestPlanned(rule: TagRule, value: string): string | null {
  const folded = foldValue(value);
  if (!folded) return null;
  const planned = lookupOf(rule).folded;
  const same = planned.find((one) => one.folded === folded || one.label === folded);
  if (same) return same.value;
  let best: { value: string; slips: number } | null = null;
  const most = Math.min(2, Math.floor(folded.length / 4));
  for (const one of planned) {
    // What differs more in length than slips are allowed is not looked at.
    if (Math.abs(one.folded.length - folded.length) > most) continue;
    const slips = distance(one.folded, folded);
    if (slips <= most && slips < (best?.slips ?? Infinity)) best = { value: one.value, slips };
  }
  return best?.value ?? null;
}

/**
 * Checks one value against the plan: what is wrong with it, and the value that would be right. A repair is
 * offered, never made.
 */
export function checkValue(plan: Pick<Plan, 'naming' | 'aliases'>, rule: TagRule, value: string): ValueCheck {
  const alias = plan.aliases.find((known) => known.tag === rule.tag && known.value === value && known.means !== '');
  if (alias) return { problems: ['alias'], repaired: alias.means };
  const problems = problemsOf(plan, rule, value);
  // Who somebody is has no better spelling: it must go.
  if (problems.length === 0 || problems.includes('personal')) return { problems, repaired: null };
  const joined = rule.separator ? wordsOf(value).join(rule.separator) : value.trim();
  const offered = [
    nearestPlanned(rule, value),
    withLetters(value.trim(), rule.letters),
    withLetters(joined, rule.letters),
  ];
  const good = offered.find(
    (one) => one && one !== value && !markup.test(one) && problemsOf(plan, rule, one).length === 0,
  );
  return { problems, repaired: good ?? null };
}

/** Rules of a plan by tag. */
export const ruleOf = (plan: Pick<Plan, 'tags'>, tag: string): TagRule | undefined =>
  plan.tags.find((rule) => rule.tag === tag);

/** What a value means once aliases are applied; the value itself where it has none. */
export function meaningOf(plan: Pick<Plan, 'aliases'>, tag: string, value: string): string {
  return plan.aliases.find((alias) => alias.tag === tag && alias.value === value && alias.means !== '')?.means ?? value;
}

/** True where somebody decided to leave a value as it is. */
export const isLeft = (plan: Pick<Plan, 'aliases'>, tag: string, value: string): boolean =>
  plan.aliases.some((alias) => alias.tag === tag && alias.value === value && alias.means === '');

import type { NamingProblem } from './names';
import type { ChannelRule, Plan, SourceRule, TagRule } from './schema';
import { fixedTags } from './sources';
import { checkValue, ruleOf } from './check';
import { patternProblem } from './pattern';
import { utmTags } from './tags';
import { quoteValue } from '../quote-value';
import { problemWords } from './words';

const noNames = { naming: { pattern: '', parts: [] }, aliases: [] };

/** What keeps a tag's rule from being used; `field` is its own field. */
export function checkTagRule(rule: TagRule): NamingProblem[] {
  const problems: NamingProblem[] = [];
  const wrong = rule.pattern && patternProblem(rule.pattern);
  if (wrong)
    problems.push({
      field: 'pattern',
      was: wrong,
      fix: 'Write one without look-arounds and back references, such as 20\\d\\d.',
    });
  const values = rule.values.map(({ value }) => value);
  const twice = values.find((value, index) => values.indexOf(value) !== index);
  if (twice !== undefined)
    problems.push({ field: 'values', was: `“${twice}” is listed twice`, fix: 'List each value once.' });
  if (rule.entry === 'picked' && values.length === 0)
    problems.push({
      field: 'values',
      was: 'nothing can be picked',
      fix: 'List at least one value, or let it be typed.',
    });
  // A value that is listed is right however it is written; so it is held to the rule when it is listed.
  const misfit = values.flatMap((value) => {
    const bare: TagRule = { ...rule, entry: 'typed', values: [], required: false };
    const problem = checkValue(noNames, bare, value).problems.find(
      // How long one is allowed to be is asked below; the pattern is for what is typed.
      (one) => one !== 'too_long' && (one !== 'pattern' || rule.entry === 'typed'),
    );
    return problem ? [{ value, problem }] : [];
  })[0];
  if (!wrong && misfit)
    problems.push({
      field: 'values',
      was: `“${misfit.value}” does not fit: ${problemWords(misfit.problem, rule)}`,
      fix: 'Write it as the rule says, or change the rule.',
    });
  const long = values.find((value) => value.length > rule.longest);
  if (long !== undefined)
    problems.push({
      field: 'longest',
      was: `“${long}” has ${long.length} characters`,
      fix: `Allow at least ${long.length}.`,
    });
  if (!wrong && rule.example && checkValue(noNames, rule, rule.example).problems.length > 0)
    problems.push({ field: 'example', was: `“${rule.example}” does not fit the rule`, fix: 'Give one that does.' });
  if (rule.tag.toLowerCase().startsWith('utm_') && !utmTags.some((tag) => tag === rule.tag))
    problems.push({
      field: 'tag',
      was: `${rule.tag} is none of the six UTM tags`,
      fix: `Use ${utmTags.join(', ')}, or a name of your own that does not begin with utm_.`,
    });
  return problems;
}

/** What keeps a source's rule from being used: a medium or a prescribed value that the plan itself would refuse. */
export function checkSource({ mediums, fixed, ...rule }: SourceRule, plan: Plan): NamingProblem[] {
  const problems: NamingProblem[] = [];
  const sources = ruleOf(plan, 'utm_source')?.values ?? [];
  if (!sources.some(({ value }) => value === rule.source))
    problems.push({
      field: 'source',
      was: `${quoteValue(rule.source)} is not a planned source`,
      fix: 'Choose one of the plan, or add it at the tag Source first.',
    });
  const medium = ruleOf(plan, 'utm_medium');
  const unknown = medium && mediums.find((one) => checkValue(plan, medium, one).problems.length > 0);
  if (unknown !== undefined)
    problems.push({
      field: 'mediums',
      was: `${quoteValue(unknown)} is not a planned medium`,
      fix: 'Choose media of the plan, or add it at the tag Medium first.',
    });
  for (const [tag, value] of fixedTags({ fixed })) {
    const of = ruleOf(plan, tag);
    const problem = of && checkValue(plan, of, value).problems[0];
    if (of && !problem && tag !== 'utm_source') continue;
    const why = !of ? 'is not a tag of the plan' : problem ? problemWords(problem, of) : 'is the source itself';
    problems.push({
      field: 'fixed',
      was: `${quoteValue(`${tag}=${value}`)}: ${of && problem ? why : `${quoteValue(tag)} ${why}`}`,
      fix: 'Name a tag of the plan with a value that fits its rule.',
    });
  }
  return problems;
}

/** What keeps a line of the channel map from being used. A medium that is not planned is a finding, not a mistake. */
export function checkChannel(rule: ChannelRule, plan: Plan): NamingProblem[] {
  const medium = ruleOf(plan, 'utm_medium');
  const longest = medium?.longest ?? 200;
  return rule.medium.length > longest
    ? [{ field: 'medium', was: `it has ${rule.medium.length} characters`, fix: `At most ${longest} fit the plan.` }]
    : [];
}

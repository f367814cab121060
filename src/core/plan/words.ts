import type { Disagreement } from './channels';
import type { ValueProblem } from './check';
import type { Alias, ChannelRule, NamePart, Naming, OutcomeCodeRule, ReferrerRule, TagRule } from './schema';
import { marked } from '../marked';

/** What is wrong with a value, in words. */
export function problemWords(problem: ValueProblem, rule: TagRule): string {
  switch (problem) {
    case 'missing':
      return `${rule.name} has no value`;
    case 'alias':
      return 'it is read as another value';
    case 'letters':
      return `it must be in ${rule.letters === 'lower' ? 'small' : 'capital'} letters`;
    case 'separator':
      return `its words must be joined by ${rule.separator}`;
    case 'too_long':
      return `it is longer than ${rule.longest} characters`;
    case 'unknown':
      return `it is no planned ${rule.name.toLowerCase()}`;
    case 'pattern':
      return `it does not fit ${rule.pattern}`;
    case 'name':
      return 'it cannot be read into the parts of a campaign name';
    case 'control':
      return 'it has a character that cannot be seen';
    case 'personal':
      return 'it says who somebody is';
    case 'placeholder':
      return 'its placeholder was not filled in';
  }
}

const listed = (texts: string[], last = 'and'): string =>
  texts.length < 2 ? texts.join('') : `${texts.slice(0, -1).join(', ')} ${last} ${texts.at(-1)}`;

export function disagreementWords(found: Disagreement): string {
  switch (found.code) {
    case 'no_channel':
      return 'Results have no channel for it.';
    case 'not_planned':
      return 'Links may not use it: it is no planned medium.';
    case 'no_crm_type':
      return 'The CRM has no campaign type for it.';
    case 'crm_type_unknown':
      return `The CRM has no campaign type “${found.crmType}”.`;
    case 'crm_type_no_medium':
      return 'No medium belongs to this campaign type.';
    case 'crm_type_in_two':
      return `“${found.crmType}” stands for ${listed(found.channels)}.`;
    case 'two_media':
      return `${found.channel} is both ${listed(found.media)}.`;
    case 'untracked_arrives':
      return `It is not to be tracked, yet arrived ${found.arrivals} times.`;
  }
}

/** A tag rule as a sentence; values stand in backticks. */
export function tagSentence(rule: TagRule): string {
  const letters = { lower: 'in small letters', upper: 'in capital letters', any: 'in any letters' }[rule.letters];
  const from =
    rule.entry === 'picked'
      ? `is one of ${rule.values.length} planned values`
      : rule.named
        ? 'is a campaign name of the plan'
        : rule.pattern
          ? `is typed and fits ${marked(rule.pattern)}`
          : 'is typed';
  const joined = rule.separator ? `, its words joined by ${marked(rule.separator)}` : '';
  const must = rule.required ? 'Every link has it.' : 'A link may go without it.';
  return `${rule.name}, ${marked(rule.tag)}, ${from}, ${letters}${joined}, at most ${rule.longest} characters. ${must}`;
}

/** What a change of a tag's rule does to its values and notes. */
export function tagDetails(before: TagRule, after: TagRule): string[] {
  const values = (rule: TagRule) => new Map(rule.values.map(({ value, label }) => [value, label]));
  const [was, will] = [values(before), values(after)];
  const quoted = (list: string[]) => listed(list.map((value) => marked(value)));
  const taken = [...will.keys()].filter((value) => !was.has(value));
  const gone = [...was.keys()].filter((value) => !will.has(value));
  const relabelled = [...will].filter(([value, label]) => was.has(value) && was.get(value) !== label);
  return [
    ...(taken.length > 0 ? [`Takes in ${quoted(taken)}.`] : []),
    ...(gone.length > 0 ? [`Takes out ${quoted(gone)}.`] : []),
    ...relabelled.map(([value, label]) => `${marked(value)} is read as “${label || value}”.`),
    ...(before.example !== after.example ? [`Its example is ${marked(after.example)}.`] : []),
    ...(before.note !== after.note ? [`Its note is “${after.note}”.`] : []),
  ];
}

export function namingSentence(naming: Naming): string {
  if (!naming.pattern) return 'Campaign names are not put together from parts.';
  return `A campaign name is ${marked(naming.pattern)}: ${listed(naming.parts.map(partSentence))}.`;
}

const partSentence = (part: NamePart): string =>
  `${part.label.toLowerCase()} ${
    {
      listed: `one of ${part.values.map(({ value }) => marked(value)).join(', ')}`,
      digits: part.digits === 1 ? 'a digit' : `${part.digits} digits`,
      word: 'one word',
      words: 'words with hyphens',
    }[part.kind]
  }`;

export function channelSentence(rule: ChannelRule): string {
  const crm = rule.crmTypes.length > 0 ? `, in the CRM ${listed(rule.crmTypes, 'or')}` : ', and nothing in the CRM';
  return `${marked(rule.medium)} is ${rule.channel} in results${crm}; ${rule.media} media, ${rule.tracked ? 'tracked' : 'not tracked'}.`;
}

export const referrerSentence = ({ host, channel }: ReferrerRule): string =>
  `Who comes from ${marked(host)} without tags belongs to ${channel}.`;

export const aliasSentence = ({ tag, value, means }: Alias): string =>
  means
    ? `${marked(value)} in ${marked(tag)} is read as ${marked(means)}.`
    : `${marked(value)} in ${marked(tag)} is left as it is.`;

export function outcomeCodesSentence(rule: OutcomeCodeRule): string {
  if (rule.beginnings.length === 0) return 'Outcome codes follow no rule yet.';
  const codes = listed(
    rule.beginnings.map(({ code, label }) => `${marked(code)} for ${label}`),
    'or',
  );
  return `An outcome’s code is ${codes}, a hyphen, and what happened in 2 to ${rule.longest} capital letters; its version and its words stand beside it.`;
}

import { describe, expect, it } from 'vitest';
import type { Disagreement } from './channels';
import type { ValueProblem } from './check';
import { checkChannel, checkTagRule } from './check-rule';
import { firstPlan, tagRule } from './first-plan';
import type { ChannelRule } from './schema';
import {
  aliasSentence,
  channelSentence,
  disagreementWords,
  namingSentence,
  outcomeCodesSentence,
  problemWords,
  referrerSentence,
  tagSentence,
} from './words';

const medium = tagRule('utm_medium', 'Medium', {
  ...{ entry: 'picked', required: true, longest: 30, pattern: '[a-z]+' },
  values: [{ value: 'email', label: 'E-mail' }],
});

describe('a tag’s rule in words', () => {
  it.each([
    [
      medium,
      'Medium, `utm_medium`, is one of 1 planned values, in small letters, its words joined by `-`, at most 30 characters. Every link has it.',
    ],
    [
      tagRule('year', 'Year', { pattern: '20\\d\\d', separator: '', letters: 'any', longest: 4 }),
      'Year, `year`, is typed and fits `20\\d\\d`, in any letters, at most 4 characters. A link may go without it.',
    ],
    [
      tagRule('utm_campaign', 'Campaign', { named: true, letters: 'upper', separator: '_' }),
      'Campaign, `utm_campaign`, is a campaign name of the plan, in capital letters, its words joined by `_`, at most 100 characters. A link may go without it.',
    ],
    [
      tagRule('utm_content', 'Content'),
      'Content, `utm_content`, is typed, in small letters, its words joined by `-`, at most 100 characters. A link may go without it.',
    ],
  ])('%#', (rule, sentence) => expect(tagSentence(rule)).toBe(sentence));
});

describe('what is wrong with a value', () => {
  const said: [ValueProblem, string][] = [
    ['missing', 'Medium has no value'],
    ['alias', 'it is read as another value'],
    ['letters', 'it must be in small letters'],
    ['separator', 'its words must be joined by -'],
    ['too_long', 'it is longer than 30 characters'],
    ['unknown', 'it is no planned medium'],
    ['pattern', 'it does not fit [a-z]+'],
    ['name', 'it cannot be read into the parts of a campaign name'],
    ['control', 'it has a character that cannot be seen'],
    ['personal', 'it says who somebody is'],
    ['placeholder', 'its placeholder was not filled in'],
  ];
  it.each(said)('%s: %s', (problem, words) => expect(problemWords(problem, medium)).toBe(words));
  it('in capitals', () =>
    expect(problemWords('letters', { ...medium, letters: 'upper' })).toBe('it must be in capital letters'));
});

describe('in what links, results and CRM differ', () => {
  const said: [Disagreement, string][] = [
    [{ code: 'no_channel', medium: 'fair' }, 'Results have no channel for it.'],
    [{ code: 'not_planned', medium: 'fax' }, 'Links may not use it: it is no planned medium.'],
    [{ code: 'no_crm_type', medium: 'fair' }, 'The CRM has no campaign type for it.'],
    [{ code: 'crm_type_unknown', medium: 'fair', crmType: 'Gone' }, 'The CRM has no campaign type “Gone”.'],
    [{ code: 'crm_type_no_medium', crmType: 'Workshop days' }, 'No medium belongs to this campaign type.'],
    [{ code: 'crm_type_in_two', crmType: 'Ads', channels: ['A', 'B', 'C'] }, '“Ads” stands for A, B and C.'],
    [{ code: 'two_media', channel: 'Social', media: ['paid', 'owned'] }, 'Social is both paid and owned.'],
    [{ code: 'untracked_arrives', medium: 'print', arrivals: 4 }, 'It is not to be tracked, yet arrived 4 times.'],
  ];
  it.each(said)('%o: %s', (found, words) => expect(disagreementWords(found)).toBe(words));
});

it('channels, referrers, aliases, names and codes are sentences', () => {
  const channel: ChannelRule = {
    ...{ medium: 'email', channel: 'E-mail', crmTypes: ['Letter', 'Mail series'], media: 'owned' },
    ...{ tracked: true, joins: 'in' },
  };
  expect(channelSentence(channel)).toBe(
    '`email` is E-mail in results, in the CRM Letter or Mail series; owned media, tracked.',
  );
  expect(channelSentence({ ...channel, crmTypes: [], tracked: false })).toBe(
    '`email` is E-mail in results, and nothing in the CRM; owned media, not tracked.',
  );
  expect(referrerSentence({ host: 'a.example', channel: 'Partners' })).toBe(
    'Who comes from `a.example` without tags belongs to Partners.',
  );
  const alias = { tag: 'utm_medium', value: 'ppc', means: 'paid-search' };
  expect(aliasSentence(alias)).toBe('`ppc` in `utm_medium` is read as `paid-search`.');
  expect(aliasSentence({ ...alias, means: '' })).toBe('`ppc` in `utm_medium` is left as it is.');
  const parts = [
    { key: 'm', label: 'Market', kind: 'listed', values: [{ value: 'uk', label: '' }], digits: 1 },
    { key: 'y', label: 'Year', kind: 'digits', values: [], digits: 2 },
    { key: 'n', label: 'Quarter', kind: 'digits', values: [], digits: 1 },
    { key: 'l', label: 'Line', kind: 'word', values: [], digits: 1 },
  ] as const;
  expect(
    namingSentence({ pattern: '{m}-{y}q{n}-{l}', parts: parts.map((part) => ({ ...part, values: [...part.values] })) }),
  ).toBe('A campaign name is `{m}-{y}q{n}-{l}`: market one of `uk`, year 2 digits, quarter a digit and line one word.');
  expect(namingSentence({ pattern: '', parts: [] })).toBe('Campaign names are not put together from parts.');
  const beginnings = [
    { code: 'FLT', label: 'Fleet' },
    { code: 'SHP', label: 'Shop' },
  ];
  expect(outcomeCodesSentence({ beginnings, longest: 6 })).toBe(
    'An outcome’s code is `FLT` for Fleet or `SHP` for Shop, a hyphen, and what happened in 2 to 6 capital letters; its version and its words stand beside it.',
  );
  expect(outcomeCodesSentence({ beginnings: [], longest: 6 })).toBe('Outcome codes follow no rule yet.');
});

describe('a tag’s rule that cannot be used names its field', () => {
  const wrong = (part: object) => checkTagRule({ ...medium, ...part }).map(({ field, was }) => `${field}: ${was}`);
  it.each([
    [{}, []],
    [{ entry: 'typed', values: [], example: 'email' }, []],
    [{ values: [] }, ['values: nothing can be picked']],
    [{ values: [...medium.values, ...medium.values] }, ['values: “email” is listed twice']],
    [{ longest: 3 }, ['longest: “email” has 5 characters']],
    [{ example: 'fax' }, ['example: “fax” does not fit the rule']],
    [{ pattern: '(?=a)b' }, ['pattern: it is no pattern: invalid or unsupported Perl syntax: `(?=`']],
    [{ pattern: '(a+)+' }, []],
    [{ tag: 'utm_other' }, ['tag: utm_other is none of the six UTM tags']],
    [{ tag: 'UTM_Source' }, ['tag: UTM_Source is none of the six UTM tags']],
  ])('%o: %j', (part, found) => expect(wrong(part)).toEqual(found));
  it('with the pattern’s own mistake', () =>
    expect(wrong({ pattern: '(' })[0]).toBe('pattern: it is no pattern: missing closing ): `(`'));
});

it('a medium longer than the plan lets it be is refused in the channel map', () => {
  const plan = firstPlan();
  const rule: ChannelRule = {
    ...{ medium: 'x'.repeat(101), channel: 'X', crmTypes: [], media: 'paid', tracked: true, joins: 'on' },
  };
  expect(checkChannel(rule, plan)).toEqual([
    { field: 'medium', was: 'it has 101 characters', wants: 'At most 100 fit the plan.' },
  ]);
  expect(checkChannel({ ...rule, medium: 'x' }, plan)).toEqual([]);
});

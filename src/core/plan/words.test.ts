import { describe, expect, it } from 'vitest';
import type { Disagreement } from './channels';
import type { ValueProblem } from './check';
import { checkChannel, checkTagRule } from './check-rule';
import { firstPlan, tagRule } from './first-plan';
import type { ChannelRule } from './schema';
import { disagreementWords, problemWords } from './words';

const medium = tagRule('utm_medium', 'Medium', {
  entry: 'picked',
  required: true,
  longest: 30,
  pattern: '[a-z]+',
  values: [{ value: 'email', label: 'E-mail' }],
});

describe('what is wrong with a value', () => {
  const said: [ValueProblem, string][] = [
    ['missing', 'Medium has no value'],
    ['alias', 'it is read as another value'],
    ['letters', 'it must be in lower case'],
    ['separator', 'its words must be joined by -'],
    ['too_long', 'it is longer than 30 characters'],
    ['unknown', 'it is no planned medium'],
    ['pattern', 'it does not fit [a-z]+'],
    ['name', 'it cannot be read into the parts of a campaign name'],
    ['control', 'it has a character that cannot be seen'],
    ['personal', 'it contains personal data'],
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

describe('a tag’s rule that cannot be used names its field', () => {
  const wrong = (part: object) => checkTagRule({ ...medium, ...part }).map(({ field, was }) => `${field}: ${was}`);
  it.each([
    [{}, []],
    [{ entry: 'typed', values: [], example: 'email' }, []],
    [{ values: [] }, ['values: nothing can be picked']],
    [{ values: [...medium.values, ...medium.values] }, ['values: “email” is listed twice']],
    [{ longest: 3 }, ['longest: “email” has 5 characters']],
    [
      { values: [...medium.values, { value: 'Trade Fair Böth', label: '' }] },
      ['values: “Trade Fair Böth” does not fit: it must be in lower case'],
    ],
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
    medium: 'x'.repeat(101),
    channel: 'X',
    crmTypes: [],
    media: 'paid',
    tracked: true,
    joins: 'on',
  };
  expect(checkChannel(rule, plan)).toEqual([
    { field: 'medium', was: 'it has 101 characters', fix: 'At most 100 fit the plan.' },
  ]);
  expect(checkChannel({ ...rule, medium: 'x' }, plan)).toEqual([]);
});

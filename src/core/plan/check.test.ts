import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkValue, meaningOf } from './check';
import { firstPlan, tagRule } from './first-plan';
import type { TagRule } from './schema';

const plan = firstPlan();
const medium = tagRule('utm_medium', 'Medium', {
  entry: 'picked',
  required: true,
  longest: 30,
  values: ['paid-search', 'paid-social', 'email'].map((value) => ({ value, label: '' })),
});

describe('a value that is picked', () => {
  it.each(['Paid_Social', 'paid social', 'PaidSocial', 'PAID-SOCIAL', 'paid-socal'])(
    '%s is off plan, and paid-social is offered',
    (value) => {
      const { problems, repaired } = checkValue(plan, medium, value);
      expect(problems).toContain('unknown');
      expect(repaired).toBe('paid-social');
    },
  );
  it('with nothing near is named without a guess', () => {
    expect(checkValue(plan, medium, 'billboard')).toEqual({ problems: ['unknown'], repaired: null });
  });
  it('is right as it is listed, whatever the letters of the rule', () => {
    const rule = { ...medium, values: [{ value: 'Paid_Social', label: '' }] };
    expect(checkValue(plan, rule, 'Paid_Social')).toEqual({ problems: [], repaired: null });
  });
  it('is missing only where it is required', () => {
    expect(checkValue(plan, medium, '').problems).toEqual(['missing']);
    expect(checkValue(plan, { ...medium, required: false }, '').problems).toEqual([]);
  });
});

describe('a value that is typed', () => {
  const content = tagRule('utm_content', 'Content', { longest: 20 });
  it.each([
    ['Hill Video', ['letters', 'separator'], 'hill-video'],
    ['hill_video', ['separator'], 'hill-video'],
    ['<script>alert(1)</script>', ['separator', 'too_long'], null],
    ['<b>hill/2</b>', ['separator'], null],
    ['hill-video', [], null],
    ['anna@bakery.example', ['personal', 'separator'], null],
    ['a-value-that-is-far-too-long', ['too_long'], null],
  ])('%s has %j and is repaired to %s', (value, problems, repaired) => {
    expect(checkValue(plan, content, value)).toEqual({ problems, repaired });
  });
  it('keeps its words where other letters are all that it needs', () => {
    const campaign = tagRule('utm_campaign', 'Campaign', { named: true });
    const naming = {
      pattern: '{market}-{yy}q{n}-{line}',
      parts: [
        { key: 'market', label: 'Market', kind: 'listed' as const, values: [{ value: 'uk', label: '' }], digits: 1 },
        { key: 'yy', label: 'Year', kind: 'digits' as const, values: [], digits: 2 },
        { key: 'n', label: 'Quarter', kind: 'digits' as const, values: [], digits: 1 },
        { key: 'line', label: 'Line', kind: 'word' as const, values: [], digits: 1 },
      ],
    };
    expect(checkValue({ ...plan, naming }, campaign, 'UK-27Q1-Fleet').repaired).toBe('uk-27q1-fleet');
  });
  it('is held to the pattern of its rule as a whole', () => {
    const year = tagRule('year', 'Year', { pattern: '20\\d\\d', separator: '' });
    expect(checkValue(plan, year, '2027').problems).toEqual([]);
    expect(checkValue(plan, year, '2027-01').problems).toEqual(['pattern']);
  });
});

it('an alias says what a value means, and nothing else of it is named', () => {
  const aliased = { ...plan, aliases: [{ tag: 'utm_medium', value: 'ppc', means: 'paid-search' }] };
  expect(checkValue(aliased, medium, 'ppc')).toEqual({ problems: ['alias'], repaired: 'paid-search' });
  expect(meaningOf(aliased, 'utm_medium', 'ppc')).toBe('paid-search');
  expect(meaningOf(aliased, 'utm_source', 'ppc')).toBe('ppc');
});

const rules: fc.Arbitrary<TagRule> = fc.record({
  tag: fc.constant('t'),
  name: fc.constant('T'),
  pattern: fc.constantFrom('', '[a-z0-9-]+'),
  values: fc.uniqueArray(
    fc.string({ minLength: 1, maxLength: 12 }).map((value) => ({ value, label: '' })),
    {
      selector: ({ value }) => value,
      maxLength: 6,
    },
  ),
  named: fc.constant(false),
  letters: fc.constantFrom('lower', 'upper', 'any'),
  separator: fc.constantFrom('-', '_', '.', ''),
  longest: fc.integer({ min: 1, max: 30 }),
  entry: fc.constantFrom('picked', 'typed'),
  required: fc.boolean(),
  example: fc.constant(''),
  note: fc.constant(''),
});

it('whatever is offered as a repair is right by the same rule', () => {
  fc.assert(
    fc.property(rules, fc.string({ maxLength: 40 }), (rule, value) => {
      const { problems, repaired } = checkValue(plan, rule, value);
      if (problems.length === 0) expect(repaired).toBeNull();
      if (repaired !== null) expect(checkValue(plan, rule, repaired)).toEqual({ problems: [], repaired: null });
    }),
  );
});

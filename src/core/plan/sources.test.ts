import { describe, expect, it } from 'vitest';
import { firstPlan, tagRule } from './first-plan';
import type { Plan } from './schema';
import { checkSource } from './check-rule';
import { valuesBeside, withSource } from './sources';

const listed = (...values: string[]) => values.map((value) => ({ value, label: '' }));
const source = tagRule('utm_source', 'Source', { entry: 'picked', values: listed('letter', 'baker', 'print') });
const medium = tagRule('utm_medium', 'Medium', { entry: 'picked', values: listed('email', 'partner') });
const plan: Plan = {
  ...firstPlan(),
  tags: [source, medium, tagRule('utm_content', 'Content')],
  sources: [
    { source: 'letter', mediums: ['email'], fixed: [] },
    { source: 'baker', mediums: ['partner'], fixed: ['utm_content=bw-04'] },
  ],
};

describe('picking a source', () => {
  it('brings its only medium and what it prescribes', () =>
    expect(withSource(plan, {}, 'baker')).toEqual({
      utm_source: 'baker',
      utm_medium: 'partner',
      utm_content: 'bw-04',
    }));
  it('leaves a medium that was chosen', () =>
    expect(withSource(plan, { utm_medium: 'email' }, 'baker').utm_medium).toBe('email'));
  it('takes away what only the one before prescribed, and nothing that was typed', () => {
    expect(withSource(plan, { utm_source: 'baker', utm_content: 'bw-04' }, 'print')).toEqual({ utm_source: 'print' });
    expect(withSource(plan, { utm_source: 'letter', utm_content: 'top' }, 'print').utm_content).toBe('top');
  });
});

it('media are offered that go with the source, and sources that go with the medium', () => {
  const offered = (rule: typeof source, tags: Record<string, string>) =>
    valuesBeside(plan, rule, tags).map(({ value }) => value);
  expect(offered(medium, { utm_source: 'letter' })).toEqual(['email']);
  expect(offered(medium, { utm_source: 'print' })).toEqual(['email', 'partner']);
  expect(offered(source, { utm_medium: 'partner' })).toEqual(['baker', 'print']);
});

it.each([
  ['fax', [], [], 'source'],
  ['letter', ['fax'], [], 'mediums'],
  ['letter', [], ['utm_content=TOP'], 'fixed'],
  ['letter', [], ['colour=red'], 'fixed'],
  ['letter', [], ['utm_source=letter'], 'fixed'],
])('a rule for %s with %j and %j is refused at %s', (name, mediums, fixed, field) =>
  expect(checkSource({ source: name, mediums, fixed }, plan).map((problem) => problem.field)).toEqual([field]),
);

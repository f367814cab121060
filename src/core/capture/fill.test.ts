import { describe, expect, it } from 'vitest';
import { decideFills, isNear, readValue, type SeenForm } from './fill';
import { nothingKept } from './keep';
import type { Kept } from './schema';
import { fillRule, hiddenFields, rules, start } from './rules.fixture';

const kept = {
  ...nothingKept(),
  clicks: [{ platform: 'quillsearch', clickId: 'Q1', at: start }],
};
const form = (...fields: [name: string, value?: string][]): SeenForm => ({
  name: 'test-ride',
  page: '/fleet',
  fields: fields.flatMap(([name, value]) => hiddenFields([name], value)),
});
const stateOf = (seen: ReturnType<typeof form>, field: string) =>
  decideFills(seen, kept, rules).report.find((line) => line.field === field);

describe('filling hidden fields', () => {
  it('fills the field that the rule names', () => {
    const { fills, report } = decideFills(form(['click_id'], ['source']), kept, rules);
    expect(fills).toEqual([{ field: 0, value: 'Q1' }]);
    expect(report.map((line) => line.state)).toEqual(['filled', 'no_value']);
  });

  it('names a field of nearly the same name where the right one is missing', () => {
    expect(stateOf(form(['click_ref']), 'click_id')).toMatchObject({ state: 'near', near: 'click_ref', value: '' });
  });

  it('says where a field is missing altogether', () => {
    expect(stateOf(form(['shoe_size']), 'click_id')?.state).toBe('not_found');
  });

  it('leaves a value alone where the rule fills only empty fields', () => {
    const with_ = { ...kept, last: { ...fakeTouch, source: 'letter' } };
    const { fills, report } = decideFills(form(['click_id'], ['source', 'typed']), with_, rules);
    expect(fills.map(({ field }) => field)).toEqual([0]);
    expect(report[1]).toMatchObject({ state: 'had_value', value: 'typed' });
  });

  it('leaves forms alone that a rule is not for', () => {
    expect(decideFills({ ...form(['click_id']), name: 'newsletter' }, kept, rules).fills).toEqual([]);
  });
});

describe('a field', () => {
  const seen: SeenForm = {
    name: 'test-ride',
    page: '/fleet/nl',
    fields: [
      ...hiddenFields(['a', 'b']),
      { name: '', id: 'ref-7', label: '', hidden: true, value: '' },
      { name: 'q3', id: '', label: 'Your reference *', hidden: false, value: 'typed by hand' },
    ],
    matches: (field, selector) => selector === '.ref' && field === 1,
  };
  const decide = (rule: Partial<Parameters<typeof fillRule>[0]>) =>
    decideFills(seen, kept, { ...rules, fill: [fillRule({ id: 'r', field: 'a', reading: 'click_id', ...rule })] });

  it.each([
    ['by its name', { field: 'a' }, 0],
    ['by its ID', { find: 'id', field: 'ref-7' }, 2],
    ['by its label', { find: 'label', field: 'your reference' }, 3],
    ['by a selector', { find: 'selector', field: '.ref' }, 1],
    ['on pages that begin so', { pages: ['/shop', '/fleet'] }, 0],
  ] as const)('is found %s', (_, rule, at) =>
    expect(decide(rule as never)).toMatchObject({ fills: [{ field: at, value: 'Q1' }], report: [{ state: 'filled' }] }),
  );

  it('is left alone on other pages, and no rule is reported there', () => {
    expect(decide({ pages: ['/shop'] })).toEqual({ fills: [], report: [] });
  });

  it('takes what the rule gives where there is nothing to read', () => {
    expect(decide({ reading: 'last_campaign', otherwise: 'none known' }).fills).toEqual([
      { field: 0, value: 'none known' },
    ]);
  });

  it('that a visitor sees keeps what was typed, and what that was is not told', () => {
    expect(decide({ find: 'label', field: 'Your reference', when: 'empty' })).toMatchObject({
      fills: [],
      report: [{ state: 'had_value', value: '' }],
    });
  });

  it('that two rules find takes the value of the first', () => {
    const fill = [
      fillRule({ id: '1', field: 'a', reading: 'click_id' }),
      fillRule({ id: '2', field: 'a', reading: 'last_source', otherwise: 'x' }),
    ];
    expect(decideFills(seen, kept, { ...rules, fill }).fills).toEqual([{ field: 0, value: 'Q1' }]);
  });
});

const fakeTouch = {
  at: start,
  source: '',
  medium: '',
  campaign: '',
  content: '',
  term: '',
  utmId: '',
  referrer: '',
  landing: '',
  platform: '',
  clickId: '',
};

it('every tag of the first and of the last touch can be read', () => {
  const tags = { source: 's', medium: 'm', campaign: 'c', content: 'n', term: 't', utmId: 'i' };
  const both: Kept = { ...nothingKept(), first: { ...fakeTouch, ...tags }, last: { ...fakeTouch, ...tags } };
  for (const touch of ['first', 'last'] as const)
    expect(
      (['source', 'medium', 'campaign', 'content', 'term', 'id'] as const)
        .map((tag) => readValue({ reading: `${touch}_${tag}`, platform: '' }, both))
        .join(''),
    ).toBe('smcnti');
});

describe('nearly the same name', () => {
  it.each([
    ['click_ref', 'click_id', true],
    ['clickId', 'click_id', true],
    ['CLICK-ID', 'click_id', true],
    ['click_id', 'click_id', false],
    ['utm_source', 'utm_medium', false],
    ['company', 'click_id', false],
  ])('%s for %s: %s', (name, wanted, near) => expect(isNear(name, wanted)).toBe(near));
});

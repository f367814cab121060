import { describe, expect, it } from 'vitest';
import { decideFills, isNear } from './fill';
import { nothingKept } from './keep';
import { rules, start } from './rules.fixture';

const kept = {
  ...nothingKept(),
  clicks: [{ platform: 'quillsearch', clickId: 'Q1', at: start }],
};
const form = (...hidden: [name: string, value?: string][]) => ({
  name: 'test-ride',
  hidden: hidden.map(([name, value = '']) => ({ name, value })),
});
const stateOf = (seen: ReturnType<typeof form>, field: string) =>
  decideFills(seen, kept, rules).report.find((line) => line.field === field);

describe('filling hidden fields', () => {
  it('fills the field that the rule names', () => {
    const { fills, report } = decideFills(form(['click_id'], ['source']), kept, rules);
    expect(fills).toEqual([{ field: 'click_id', value: 'Q1' }]);
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
    expect(fills.some((fill) => fill.field === 'source')).toBe(false);
    expect(report[1]).toMatchObject({ state: 'had_value', value: 'typed' });
  });

  it('leaves forms alone that a rule is not for', () => {
    expect(decideFills({ ...form(['click_id']), name: 'newsletter' }, kept, rules).fills).toEqual([]);
  });
});

const fakeTouch = {
  ...{ at: start, source: '', medium: '', campaign: '', content: '', term: '', utmId: '' },
  ...{ referrer: '', landing: '', platform: '', clickId: '' },
};

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

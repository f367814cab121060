import { expect, it } from 'vitest';
import { behindAddress } from './behind-address';

const asked = {
  count: 'leads',
  by: 'source,campaign',
  credit: 'even',
  range: 'own',
  from: '2027-01-01',
  to: '2027-01-31',
};
const row = '["quillsearch","winter"]';
const at = (...given: Parameters<typeof behindAddress>) => {
  const [path, query] = behindAddress(...given).split('?');
  return [path, Object.fromEntries(new URLSearchParams(query))];
};

it('enquiries and outcomes are behind what is credited, with all that was asked for', () => {
  expect(at(asked, 'leads', row)).toEqual(['behind', { ...asked, of: 'leads', row }]);
  expect(at(asked, 'lifetime_per_subscriber', null)).toEqual(['behind', { ...asked, of: 'lifetime_per_subscriber' }]);
});

it('visits are behind visits, and the first of each browser behind visitors', () => {
  const days = { range: 'own', from: '2027-01-01', to: '2027-01-31' };
  expect(at(asked, 'visits', row)).toEqual(['visits', { ...days, by: 'source,campaign', row }]);
  expect(at(asked, 'visitors', null)).toEqual(['visits', { ...days, first: 'yes' }]);
});

it('campaigns with what they cost are behind cost, clicks, and what is made of them', () => {
  for (const of of ['cost', 'clicks', 'cost_per_lead', 'cost_per_qualified'] as const)
    expect(at({ by: 'source', range: 'weeks4' }, of, '["quillsearch"]')).toEqual([
      'cost',
      { range: 'weeks4', by: 'source', row: '["quillsearch"]' },
    ]);
});

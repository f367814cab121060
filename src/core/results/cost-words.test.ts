import { describe, expect, it, test } from 'vitest';
import { costSentence, percentText, rateMillionths, rateText } from './cost-words';
import { costQuerySchema, feeGivenSchema, rateGivenSchema, type CostCampaignRow } from './cost-view';

const row = (amount: number | null, isMatched = true): Pick<CostCampaignRow, 'amount' | 'match' | 'own'> => ({
  amount,
  match: isMatched ? { campaign: 'winter', by: 'name' } : null,
  own: { amount: 100, currency: 'USD' },
});

describe('the sentence of cost', () => {
  it('says what all campaigns cost', () => {
    expect(costSentence([row(400_000), row(21_050)], 'GBP', true)).toEqual({
      title: '£4,211 for 2 campaigns.',
      under: 'With fees, exchanged by the day, and by the business’s days.',
    });
  });

  it('says what is matched with no campaign, and what has no rate', () => {
    const { title, under } = costSentence([row(10_000), row(5000, false), row(null)], 'GBP', true);
    expect(title).toBe('£150 for 3 campaigns, 1 of them not matched.');
    expect(under).toContain('1 is matched with no campaign: say which it is');
    expect(under).toContain('Without an exchange rate for USD its cost is left out');
  });

  it('says what to do where nothing is known', () => {
    expect(costSentence([], 'GBP', false).under).toContain('Connect an account');
    expect(costSentence([], 'GBP', true).under).toContain('choose other days');
  });
});

test('rates and percents are written as they are typed', () => {
  for (const text of ['0.79', '1', '150.25', '0.000001', '999999.999999'])
    expect(rateText(rateMillionths(text))).toBe(text);
  expect([percentText(1250), percentText(100), percentText(5)]).toEqual(['12.5', '1', '0.05']);
});

const saysOf = (schema: typeof rateGivenSchema | typeof feeGivenSchema, given: object) => {
  const read = schema.safeParse(given);
  return read.success ? '' : read.error.issues.map(({ path, message }) => `${path.join('.')} ${message}`).join('; ');
};

test('what is wrong with a rate or a fee is named, with what would be right', () => {
  const rate = { currency: 'USD', day: '2027-01-01', rate: '0.79' };
  expect(saysOf(rateGivenSchema, rate)).toBe('');
  expect(saysOf(rateGivenSchema, { ...rate, rate: '0' })).toBe('rate must be more than 0');
  expect(saysOf(rateGivenSchema, { ...rate, rate: '0,79' })).toContain('such as 0.79');
  expect(saysOf(rateGivenSchema, { ...rate, currency: 'usd' })).toContain('three capital letters');
  expect(saysOf(rateGivenSchema, { ...rate, day: '1 Jan' })).toContain('such as 2027-02-15');
  const fee = { account: 'q', percent: '12.5', firstDay: '2027-02-01', lastDay: '' };
  expect(saysOf(feeGivenSchema, fee)).toBe('');
  expect(saysOf(feeGivenSchema, { ...fee, lastDay: '2027-01-01' })).toBe('lastDay must not be before the first day');
  expect(saysOf(feeGivenSchema, { ...fee, percent: '301' })).toContain('at most 300');
});

test('an address that cannot be read asks for all cost of four weeks', () => {
  expect(costQuerySchema.parse({ range: 'x', by: 'x', row: '[1]' })).toEqual({ range: 'weeks4', by: [], row: null });
});

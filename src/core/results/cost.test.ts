import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { businessDays, campaignKey, feeOn, matchCampaigns, spreadCosts, type CostRow } from './cost';
import { exchanged, rateOn } from './exchange';

const row = (given: Partial<CostRow> = {}): CostRow => ({
  ...{ account: 'quillsearch', day: '2027-01-14', campaign: 'winter', campaignId: '7', ad: 'a', adId: '1' },
  ...{ clicks: 24, amount: 2400, currency: 'USD', ...given },
});
const business = { currency: 'GBP', timeZone: 'Europe/London' };
const newYork = () => 'America/New_York';
const rates = [
  { currency: 'USD', day: '2026-01-01', millionths: 790_000 },
  { currency: 'USD', day: '2027-01-14', millionths: 800_000 },
];

describe('a day of an account', () => {
  it('lies on two of the business’s where its zone is another one', () => {
    expect(businessDays('2027-01-14', 'America/New_York', 'Europe/London')).toEqual([
      { day: '2027-01-14', minutes: 1140 },
      { day: '2027-01-15', minutes: 300 },
    ]);
    expect(businessDays('2027-01-14', 'Europe/London', 'Europe/London')).toEqual([
      { day: '2027-01-14', minutes: 1440 },
    ]);
  });

  it('has the hours that it has when clocks are changed', () => {
    // New York goes forward on 14 March 2027, London on 28 March.
    const minutes = (day: string) =>
      businessDays(day, 'America/New_York', 'Europe/London').reduce((sum, one) => sum + one.minutes, 0);
    expect([minutes('2027-03-13'), minutes('2027-03-14'), minutes('2027-03-28')]).toEqual([1440, 1380, 1440]);
  });
});

test('fees of an account hold on their days, together', () => {
  const fees = [
    { account: 'quillsearch', hundredths: 1000, firstDay: '2027-01-01', lastDay: null },
    { account: 'quillsearch', hundredths: 250, firstDay: '2027-01-01', lastDay: '2027-01-14' },
    { account: 'tessaloop', hundredths: 9000, firstDay: '2027-01-01', lastDay: null },
  ];
  expect(feeOn(fees, 'quillsearch', '2027-01-14')).toBe(1250);
  expect(feeOn(fees, 'quillsearch', '2027-01-15')).toBe(1000);
  expect(feeOn(fees, 'quillsearch', '2026-12-31')).toBe(0);
});

describe('what ads cost', () => {
  it('is exchanged, has its fees, and is shared out by the hours', () => {
    const fees = [{ account: 'quillsearch', hundredths: 1000, firstDay: '2027-01-01', lastDay: null }];
    expect(spreadCosts([row()], business, newYork, rates, fees)).toEqual([
      { row: row(), day: '2027-01-14', amount: 1672, clicks: 19 },
      { row: row(), day: '2027-01-15', amount: 440, clicks: 5 },
    ]);
  });

  it('has no amount where its rate is not known, and its clicks all the same', () => {
    const [part] = spreadCosts([row({ currency: 'EUR' })], business, newYork, rates, []);
    expect(part).toMatchObject({ amount: null, clicks: 19 });
    const own = spreadCosts([row({ currency: 'GBP' })], business, () => 'Europe/London', [], []);
    expect(own).toMatchObject([{ day: '2027-01-14', amount: 2400, clicks: 24 }]);
  });

  it('adds up to what was exchanged, whatever the day and zone', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 10_000_000 }),
        fc.integer({ min: 0, max: 10_000 }),
        fc.integer({ min: 0, max: 800 }),
        fc.constantFrom('America/New_York', 'Asia/Kolkata', 'Pacific/Auckland', 'Europe/London'),
        (amount, clicks, after, zone) => {
          const day = new Date(Date.UTC(2026, 0, 1 + after)).toISOString().slice(0, 10);
          const parts = spreadCosts([row({ amount, clicks, day })], business, () => zone, rates, []);
          const rate = rateOn(rates, 'USD', day)!;
          expect(parts.reduce((sum, part) => sum + part.amount!, 0)).toBe(exchanged(amount, 'USD', 'GBP', rate));
          expect(parts.reduce((sum, part) => sum + part.clicks, 0)).toBe(clicks);
        },
      ),
    );
  });
});

describe('a campaign of an account is', () => {
  const read = (name: string) => name.toLowerCase();
  const names = new Set(['winter', 'spring', 'old-name']);
  const match = (
    rows: CostRow[],
    arrived: { campaign: string; number: string }[] = [],
    hand: [string, string][] = [],
  ) => matchCampaigns(rows, arrived, names, new Map(hand), read).get(campaignKey(rows[0]!));

  it('what somebody said it is, before all else', () => {
    const arrived = [{ campaign: 'spring', number: '7' }];
    expect(match([row()], arrived, [['id 7', 'summer']])).toEqual({ campaign: 'summer', by: 'hand' });
  });

  it('the one that arrives with its number most, before the one of its name', () => {
    const arrived = [
      { campaign: 'Spring', number: '7' },
      { campaign: 'winter', number: '7' },
    ];
    expect(match([row()], arrived)).toEqual({ campaign: 'spring', by: 'number' });
    expect(match([row({ campaignId: '' })], arrived)).toEqual({ campaign: 'winter', by: 'name' });
  });

  it('the one of its name, or of a name that it had before', () => {
    expect(match([row({ campaign: 'Winter' })])).toEqual({ campaign: 'winter', by: 'name' });
    const renamed = [row({ campaign: 'renamed', day: '2027-01-20' }), row({ campaign: 'old-name', day: '2027-01-02' })];
    expect(match(renamed)).toEqual({ campaign: 'old-name', by: 'earlier name' });
  });

  it('none, where nothing fits', () => {
    expect(match([row({ campaign: 'nobody knows' })])).toBeNull();
  });
});

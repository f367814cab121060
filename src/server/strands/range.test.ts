import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { rangeSchema } from '../../core/strands/schema';
import { setClock } from '../clock';
import type { BusinessRow } from '../db';
import { cycleDays, resolveRange } from './range';

const business = { timeZone: 'Europe/Amsterdam' } as BusinessRow;
const resolve = (
  query: Record<string, string>,
  facts = { cycle: 31 as number | null, releasedAt: Date.UTC(2027, 2, 1, 12) },
) => resolveRange(rangeSchema.parse(query), business, facts);
const instants = ({ period }: ReturnType<typeof resolve>) =>
  [period.from, period.to].map((ms) => new Date(ms).toISOString());

/** Half past midnight on 30 March 2027 in Amsterdam; summer time began on the 28th. */
beforeAll(() => setClock(Date.UTC(2027, 2, 29, 22, 30)));
afterAll(() => setClock(null));

describe('the range of a view', () => {
  it('is days of the business’s own zone, over a change of the clocks', () => {
    const week = resolve({ range: 'week' });
    expect([week.firstDay, week.lastDay]).toEqual(['2027-03-24', '2027-03-30']);
    expect(instants(week)).toEqual(['2027-03-23T23:00:00.000Z', '2027-03-30T22:00:00.000Z']);
  });

  it('is four weeks where nothing, or nonsense, was asked for', () => {
    for (const query of [
      {},
      { range: 'decade' },
      { range: 'own', from: '2027-01-01' },
      { range: 'own', from: 'x', to: 'y' },
    ])
      expect(resolve(query as Record<string, string>)).toMatchObject({ choice: 'weeks4', firstDay: '2027-03-03' });
  });

  it('is one sales cycle, or begins with the release', () => {
    expect(resolve({ range: 'cycle' }).firstDay).toBe('2027-02-28');
    expect(resolve({ range: 'release' }).firstDay).toBe('2027-03-01');
  });

  it('takes own days in either order, and a day that does not exist for none', () => {
    expect(resolve({ range: 'own', from: '2027-02-10', to: '2027-02-01' })).toMatchObject({
      firstDay: '2027-02-01',
      lastDay: '2027-02-10',
    });
  });
});

describe('the sales cycle', () => {
  it('is the median in whole days, at least one, unknown without any', () => {
    expect([cycleDays([24 * 10, 24 * 31, 24 * 90]), cycleDays([3]), cycleDays([])]).toEqual([31, 1, null]);
  });
});

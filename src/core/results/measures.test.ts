import { describe, expect, it, test } from 'vitest';
import {
  figureOf,
  isOfCost,
  isOfSegment,
  kindOf,
  measuredShare,
  measures,
  measureWords,
  neededFor,
  nounOf,
  ratios,
  saysAmounts,
  type Counted,
  type Measure,
} from './measures';

const of =
  (values: Partial<Record<Measure, number>>) =>
  (measure: Measure): number =>
    values[measure] ?? 0;

describe('a measure', () => {
  it('is called and written so that nobody takes a count for an amount', () => {
    for (const one of [...measures, ...ratios] as Counted[]) {
      expect(measureWords(one)).toMatch(/^[a-z0-9 -]+$/);
      expect(nounOf(one, 1000)).not.toBe('');
    }
    expect((['visits', 'leads', 'profit', 'cost_per_lead', 'return_on_cost'] as const).map(kindOf)).toEqual([
      ...(['whole', 'shared', 'money', 'money each', 'share'] as const),
    ]);
    expect([kindOf('subscribers'), kindOf('lifetime'), kindOf('lifetime_per_subscriber')]).toEqual([
      ...(['shared', 'money', 'money each'] as const),
    ]);
    expect(measureWords('outcome.FLT-QUAL')).toBe('FLT-QUAL');
    expect([nounOf('leads', 1000), nounOf('leads', 1500), nounOf('visits', 1)]).toEqual(['lead', 'leads', 'visit']);
  });

  it('that says something of amounts is not for who sees none', () => {
    const hidden = ([...measures, ...ratios] as Counted[]).filter(saysAmounts);
    expect(hidden).toEqual([
      ...(['revenue', 'profit', 'lifetime', 'cost'] as const),
      ...(['profit_per_visitor', 'profit_30_per_visitor', 'lifetime_per_subscriber'] as const),
      ...(['cost_per_lead', 'cost_per_qualified', 'return_on_cost'] as const),
    ]);
  });

  it('of visits and subscriptions is nothing of a segment, which is one of enquiries', () => {
    const beside = ([...measures, ...ratios] as Counted[]).filter((one) => !isOfSegment(one));
    expect(beside).toEqual([
      ...(['visits', 'visitors', 'subscribers', 'lifetime'] as const),
      ...(['leads_per_visit', 'profit_per_visitor', 'profit_30_per_visitor', 'lifetime_per_subscriber'] as const),
    ]);
  });
});

describe('a ratio', () => {
  it('is of the whole ones that it is made of, and none where there is nothing to divide by', () => {
    expect(figureOf('leads_per_visit', of({ leads: 3000, visits: 60 }))).toBe(0.05);
    expect(figureOf('lifetime_per_subscriber', of({ lifetime: 9000, subscribers: 3000 }))).toBe(3000);
    expect(figureOf('profit_30_per_visitor', of({ profit_30: 9000, visitors: 3 }))).toBe(3000);
    expect(figureOf('cost_per_lead', of({ cost: 4000, leads: 0 }))).toBeNull();
  });

  it('of a cost that nobody knows is none: what came did not come for nothing', () => {
    expect(figureOf('cost_per_lead', of({ cost: 0, leads: 3000 }))).toBeNull();
    expect(figureOf('return_on_cost', of({ cost: 0, profit: 900 }))).toBeNull();
    expect(figureOf('return_on_cost', of({ cost: 600, profit: 900 }))).toBe(1.5);
  });

  it('of cost needs what the measured share is made of, once', () => {
    expect(ratios.filter(isOfCost)).toEqual(['cost_per_lead', 'cost_per_qualified', 'return_on_cost']);
    expect(neededFor(['cost_per_lead', 'leads', 'cost'])).toEqual(['cost', 'leads', 'landed', 'clicks']);
    expect(neededFor(['leads_per_visit'])).toEqual(['leads', 'visits']);
  });
});

test('the measured share is not known where no clicks are reported', () => {
  expect(measuredShare(of({ landed: 94, clicks: 100 }))).toBe(0.94);
  expect(measuredShare(of({ landed: 94 }))).toBeNull();
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cellOf, direct, mondayOf, notKnown, noValue, type Origin, type Reading, type TouchValues } from './dimensions';
import { makeFigures, totalOf, type CountedSubject } from './figures';
import { figureOf, kindOf, measuredShare, neededFor, saysAmounts, thousandths, type Measure } from './measures';
import { creditFrom, creditText } from './schema';

const reading: Reading = {
  tag: (_, value) => value.toLowerCase(),
  channelOf: ({ medium }) => (medium === 'paid-search' ? 'Paid search' : medium),
  platformOf: ({ platform }) => platform,
  stageOf: (campaign) => (campaign === 'A' ? 'sell' : null),
};
const touch = (values: Partial<TouchValues>): TouchValues => ({
  ...{ source: '', medium: '', campaign: '', content: '', term: '', platform: '', referrerHost: '', landing: '' },
  ...values,
});
const search = touch({ source: 'quillsearch', medium: 'paid-search', campaign: 'A' });
const letter = touch({ source: 'letter', medium: 'email', campaign: 'a' });
const subject = (change: Partial<CountedSubject>): CountedSubject => ({
  id: 's',
  day: '2027-02-15',
  until: 100,
  touches: [
    { id: '1', at: 10, values: search },
    { id: '2', at: 50, values: letter },
  ],
  place: null,
  counts: ['leads'],
  amounts: {},
  ...change,
});
const measures: Measure[] = ['visits', 'visitors', 'leads', 'profit'];
const even = { kind: 'even' } as const;

describe('figures', () => {
  it('share what came in among the touches that led to it, and put what nobody knows apart from what is direct', () => {
    const figures = makeFigures(measures, ['source'], reading);
    figures.addVisits({ day: '2027-02-15', origin: 'direct', visits: 4, visitors: 3 });
    figures.addVisits({ day: '2027-02-15', origin: search, visits: 2, visitors: 2 });
    figures.addSubject(subject({ amounts: { profit: 101 } }), even);
    figures.addSubject(subject({ touches: [] }), even);
    expect(Object.fromEntries(figures.rows().map(({ cells, values }) => [cells[0], values]))).toEqual({
      [direct]: [4, 3, 0, 0],
      quillsearch: [2, 2, 500, 51],
      letter: [0, 0, 500, 50],
      [notKnown]: [0, 0, 1000, 0],
    });
  });

  it('read values by what is live, and put what is alike into one row', () => {
    const figures = makeFigures(measures, ['campaign', 'month'], reading);
    figures.addSubject(subject({}), even);
    expect(figures.rows()).toEqual([{ cells: ['a', '2027-02'], values: [0, 0, 1000, 0] }]);
  });

  it('have the same sums by whatever they are broken down, and whoever is credited', () => {
    const origin = fc.constantFrom<Origin>(search, letter, touch({}), 'direct');
    const visits = fc.record({
      day: fc.constantFrom('2027-02-14', '2027-02-15'),
      origin,
      visits: fc.integer({ min: 1, max: 9 }),
      visitors: fc.nat(1),
    });
    const path = fc.array(fc.tuple(fc.integer({ min: 0, max: 200 }), fc.constantFrom(search, letter)), {
      maxLength: 5,
    });
    const subjects = fc.record({ path, profit: fc.integer({ min: -5000, max: 5000 }) });
    const model = fc.constantFrom(...['last', 'first', 'even', 'position.40.20', 'decay.7'].map(creditFrom));
    const by = fc.subarray(['source', 'medium', 'campaign', 'day', 'channel'] as const, { minLength: 1, maxLength: 3 });
    fc.assert(
      fc.property(fc.array(visits), fc.array(subjects), model, by, (visited, came, credited, dimensions) => {
        const figures = makeFigures(measures, dimensions, reading);
        for (const one of visited) figures.addVisits(one);
        for (const [i, one] of came.entries()) {
          const touches = one.path.map(([at, values], n) => ({ id: `${i}.${n}`, at, values }));
          figures.addSubject(subject({ id: String(i), touches, amounts: { profit: one.profit } }), credited);
        }
        const rows = figures.rows();
        expect(totalOf(rows, measures.length)).toEqual([
          visited.reduce((sum, one) => sum + one.visits, 0),
          visited.reduce((sum, one) => sum + one.visitors, 0),
          came.length * thousandths,
          came.reduce((sum, { profit }) => sum + profit, 0),
        ]);
        expect(new Set(rows.map(({ cells }) => cells.join('\n'))).size).toBe(rows.length);
      }),
    );
  });
});

describe('what figures are broken down by', () => {
  it('weeks begin on Mondays', () => {
    expect(['2027-02-14', '2027-02-15', '2027-02-21', '2027-01-01'].map(mondayOf)).toEqual([
      '2027-02-08',
      '2027-02-15',
      '2027-02-15',
      '2026-12-28',
    ]);
  });

  it('a touch without a value has none, which is neither direct nor not known', () => {
    const cells = ([touch({}), 'direct', 'not known'] as const).map((origin) => cellOf('term', origin, '', reading));
    expect(cells).toEqual([noValue, direct, notKnown]);
  });
});

describe('measures', () => {
  it('are divided where both are known, and nothing is where there is nothing to divide by', () => {
    const values: Partial<Record<Measure, number>> = {
      leads: 1500,
      visits: 30,
      qualified: 500,
      profit: 900,
      visitors: 0,
    };
    const valueOf = (one: Measure) => values[one] ?? 0;
    expect(neededFor(['leads_per_visit', 'leads'])).toEqual(['leads', 'visits']);
    expect(figureOf('leads_per_visit', valueOf)).toBe(0.05);
    expect(figureOf('qualified_per_lead', valueOf)).toBeCloseTo(1 / 3);
    expect(figureOf('profit_per_visitor', valueOf)).toBeNull();
  });

  it('are credited by a model that stands in an address; what names none is the last touch', () => {
    for (const text of ['last', 'first', 'even', 'position.30.50', 'decay.2.5'])
      expect(creditText(creditFrom(text))).toBe(text);
    for (const text of ['', 'position.90.50', 'decay.0', 'somebody'])
      expect(creditFrom(text)).toEqual({ kind: 'last' });
  });
});

describe('ratios of cost', () => {
  const values: Partial<Record<Measure, number>> = {
    cost: 1000,
    leads: 4 * thousandths,
    profit: 2500,
    clicks: 8,
    landed: 6,
  };
  const valueOf = (more: Partial<Record<Measure, number>> = {}) => {
    const all = { ...values, ...more };
    return (measure: Measure) => all[measure] ?? 0;
  };

  it('are money for each, or how much of the cost came back', () => {
    expect(figureOf('cost_per_lead', valueOf())).toBe(250);
    expect(figureOf('return_on_cost', valueOf())).toBe(2.5);
    expect([kindOf('cost_per_lead'), kindOf('return_on_cost'), kindOf('clicks')]).toEqual([
      'money each',
      'share',
      'whole',
    ]);
  });

  it('are none where no cost is known, or nothing came of it', () => {
    expect(figureOf('cost_per_lead', valueOf({ cost: 0 }))).toBeNull();
    expect(figureOf('return_on_cost', valueOf({ cost: 0 }))).toBeNull();
    expect(figureOf('cost_per_lead', valueOf({ leads: 0 }))).toBeNull();
  });

  it('have the measured share beside them, of the clicks that are reported', () => {
    expect(measuredShare(valueOf())).toBe(0.75);
    expect(measuredShare(valueOf({ clicks: 0 }))).toBeNull();
    expect(neededFor(['cost_per_lead'])).toEqual(['cost', 'leads', 'landed', 'clicks']);
  });

  it('say something of amounts, as what they are made of does', () => {
    expect(
      ['cost_per_lead', 'return_on_cost', 'cost', 'clicks', 'leads_per_visit'].map((one) =>
        saysAmounts(one as Measure),
      ),
    ).toEqual([true, true, true, false, false]);
  });
});

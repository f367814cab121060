import { describe, expect, it } from 'vitest';
import { changeText, figurePlain, figureText } from './figure-text';
import { askedQuery, settled, type AskedFigures } from './figures-sentence';
import { figuresQuerySchema, behindQuerySchema, type FigureRowView } from './figures-view';
import { figuresSentence, seriesOf } from './figures-words';

const row = (text: string, figure: number | null): FigureRowView => ({
  id: text,
  row: '',
  cells: [{ text, isValue: true }],
  figures: [figure],
  before: null,
  measured: null,
});
const say = (change: Partial<Parameters<typeof figuresSentence>[0]>) =>
  figuresSentence({
    counted: ['leads'],
    by: ['channel'],
    rows: [row('Paid search', 14_000), row('Partners', 17_000), row('not known', 500)],
    sums: { figures: [31_500], before: [27_000] },
    against: 'before',
    range: 'weeks4',
    currency: 'GBP',
    ...change,
  }).title;

describe('the sentence of figures', () => {
  it('says how many, against when, and what brought most', () => {
    expect(say({})).toBe('31.5 leads in 4 weeks, 27 before; Partners brought most, 17.');
    expect(say({ against: 'year', range: 'own' })).toMatch(/^31\.5 leads in these days, 27 a year before; /);
    expect(say({ sums: { figures: [1000], before: null }, rows: [row('Partners', 1000)] })).toBe('1 lead in 4 weeks.');
  });

  it('names no best day and no best group of a ratio', () => {
    expect(say({ by: ['day'] })).toBe('31.5 leads in 4 weeks, 27 before.');
    const sums = { figures: [0.0234], before: [0.31] };
    expect(say({ counted: ['leads_per_visit'], sums })).toBe('2.34 % leads per visit in 4 weeks, 31 % before.');
  });

  it('calls what nobody knows, and direct visits, by words', () => {
    const most = (text: string) => say({ rows: [row(text, 9000), row('Partners', 1000)] });
    expect(most('not known')).toContain('; what is not known brought most, 9.');
    expect(most('direct')).toContain('; direct visits brought most, 9.');
  });

  it('says what to do where there is nothing', () => {
    expect(say({ rows: [], sums: { figures: [0], before: null } })).toBe('Nothing to count in 4 weeks.');
    expect(say({ counted: ['qualified_per_lead'], sums: { figures: [null], before: null } })).toBe(
      'Nothing to count in 4 weeks.',
    );
  });
});

describe('a figure', () => {
  it('is read by people with its unit, money in whole units from a hundred on', () => {
    const texts = (
      [
        ['visits', 12_040],
        ['leads', 14_333],
        ['profit', 12_345_67],
        ['profit', 950],
        ['profit', -950],
        ['profit', 0],
        ['profit_per_visitor', 12.5],
        ['leads_per_visit', 0.5],
      ] as const
    ).map(([counted, figure]) => figureText(counted, figure, 'GBP'));
    expect(texts).toEqual(['12,040', '14.3', '£12,346', '£9.50', '-£9.50', '£0', '£0.13', '50 %']);
    expect(figureText('revenue', 1200, 'JPY')).toBe('JP¥1,200');
  });

  it('stands in files with all that is known of it', () => {
    expect(figurePlain('leads', 14_333, 'GBP')).toBe('14.333');
    expect(figurePlain('profit', 1_234_567, 'GBP')).toBe('12345.67');
    expect(figurePlain('visits', 12, 'GBP')).toBe('12');
    expect(figurePlain('leads_per_visit', 1 / 3, 'GBP')).toBe('0.333333');
  });

  it('is held against what it was, where it was anything', () => {
    const pairs = [
      [110, 100],
      [50, 100],
      [100, 100],
      [5, 0],
      [null, 4],
    ] as const;
    expect(pairs.map(([now, before]) => changeText(now, before))).toEqual(['+10 %', '−50 %', '±0 %', '', '']);
    expect(changeText(50, -100)).toBe('+150 %');
  });
});

describe('the course of figures', () => {
  const days = ['2027-02-14', '2027-02-15'];
  const of = (values: readonly number[]) => values[0]!;
  const rows = ['a', 'b', 'c', 'd', 'e', 'f'].map((group, i) => ({ cells: [group, days[i % 2]!], values: [10 - i] }));

  it('has a line for each of the largest groups and one for all others, which add up to all', () => {
    const { series, labels } = seriesOf(rows, true, days, 4, ({ values }) => of(values), of);
    expect(labels).toEqual(days);
    expect(series).toEqual([
      { words: 'a', values: [10, 0] },
      { words: 'b', values: [0, 9] },
      { words: 'c', values: [8, 0] },
      { words: 'd', values: [0, 7] },
      { words: 'all others', values: [6, 5] },
    ]);
  });

  it('takes no line for others where there would be one group in it', () => {
    const { series } = seriesOf(rows.slice(0, 5), true, days, 4, ({ values }) => of(values), of);
    expect(series.map(({ words }) => words)).toEqual(['a', 'b', 'c', 'd', 'e']);
  });

  it('is one line without a name where there are no groups, and divides what was added up for a ratio', () => {
    const both = [
      { cells: ['2027-02-14'], values: [1, 4] },
      { cells: ['2027-02-14'], values: [1, 4] },
    ];
    const share = ({ values: [up, below] }: { values: number[] }) => (below ? up! / below : null);
    expect(seriesOf(both, false, days, 4, share, (values) => values[1]!).series).toEqual([
      { words: '', values: [0.25, null] },
    ]);
  });
});

describe('what figures are asked for', () => {
  const asked: AskedFigures = {
    ...{ counted: [{ one: 'leads' }, { one: 'leads' }], by: [{ one: 'source' }, { one: 'source' }] },
    ...{ credit: 'position', first: 80, last: 60, halfLife: 7, range: 'own', from: '2027-01-01', to: '2027-01-31' },
    ...{ against: 'year', segment: '' },
  };

  it('has each thing once, and stands in an address that is read as it was written', () => {
    const query = askedQuery(settled(asked));
    expect(query).toMatchObject({ count: 'leads,visits', by: 'source,channel', credit: 'position.80.20' });
    expect(figuresQuerySchema.parse(query)).toMatchObject({
      count: ['leads', 'visits'],
      by: ['source', 'channel'],
      range: 'own',
      from: '2027-01-01',
      against: 'year',
      page: 1,
    });
  });

  it('is the usual where an address says nothing, or what is not there', () => {
    const usual = figuresQuerySchema.parse({});
    expect(figuresQuerySchema.parse({ count: ',x', by: 'y', range: 'own', against: 'z', page: '0' })).toEqual(usual);
    expect(figuresQuerySchema.parse({ count: 'outcome.FLT-QUAL,outcome.flt' }).count).toEqual(['outcome.FLT-QUAL']);
    expect(figuresQuerySchema.parse({ by: 'day,week,month,source' }).by).toHaveLength(3);
  });

  it('opens a figure by a measure and the cells of its row, or of all rows', () => {
    expect(behindQuerySchema.parse({ of: 'won', row: '["a",""]' })).toEqual({ of: 'won', row: ['a', ''] });
    for (const row of ['[1]', 'a', '{}', undefined])
      expect(behindQuerySchema.parse({ of: 'nothing', row })).toEqual({ of: 'leads', row: null });
  });
});

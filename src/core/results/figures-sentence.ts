import { partsOf, type Option, type Piece } from '../rules/says';
import { daysOptions } from './days-options';
import { dimensions, dimensionWords, type Dimension } from './dimensions';
import { eachOnce } from './each-once';
import { mostCounted, mostDimensions, type Compare, type FiguresQuery, type FiguresView } from './figures-view';
import { measures, measureWords, ratios, saysAmounts, type Counted } from './measures';

/*
 * What figures are asked for as a sentence, whose parts are changed in place: Count leads, qualified by channel, then campaign, credit to
 * the last touch, in 4 weeks, against the days before, for every lead.
 */

/** What is asked for, as the sentence holds it. */
export interface AskedFigures {
  counted: { one: Counted }[];
  by: { one: Dimension }[];
  credit: 'last' | 'first' | 'even' | 'position' | 'decay';
  /** Percent of the first and the last touch, and days in which a touch counts half. */
  first: number;
  last: number;
  halfLife: number;
  range: FiguresQuery['range'];
  from: string;
  to: string;
  against: Compare;
  segment: string;
}

const usedIn = ({ outcomes, seesMoney }: Pick<FiguresView, 'outcomes' | 'seesMoney'>): Option[] => [
  ...[...measures, ...ratios]
    .filter((one) => seesMoney || !saysAmounts(one))
    .map((one): Option => [one, measureWords(one)]),
  ...outcomes.map(({ code, words }): Option => [`outcome.${code}`, `${code}: ${words}`]),
];

/** What is asked after a part was changed. */
export const settled = (asked: AskedFigures): AskedFigures => ({
  ...asked,
  counted: eachOnce(asked.counted, [...measures, ...ratios]),
  by: eachOnce(asked.by, dimensions),
});

/** The sentence's pieces. */
export function figuresPieces(
  view: Pick<FiguresView, 'outcomes' | 'seesMoney' | 'segments' | 'range'>,
): Piece<AskedFigures>[] {
  const { choice, number, when, each: list } = partsOf<AskedFigures>();
  const counted = partsOf<{ one: Counted }>().choice('one', 'What to count', usedIn(view));
  const by = partsOf<{ one: Dimension }>().choice(
    'one',
    'By what',
    dimensions.map((one): Option => [one, dimensionWords(one)]),
  );
  return [
    'Count ',
    list<{ one: Counted }>('counted', 'measure', [counted], {
      before: '',
      between: ', ',
      add: 'and also',
      least: 1,
      most: mostCounted,
      fresh: () => ({ one: 'visits' }),
    }),
    ' by ',
    list<{ one: Dimension }>('by', 'dimension', [by], {
      before: '',
      between: ', then ',
      add: 'then by',
      least: 1,
      most: mostDimensions,
      fresh: () => ({ one: 'source' }),
    }),
    ', credit to ',
    choice('credit', 'Who is credited', [
      ['last', 'the last touch'],
      ['first', 'the first touch'],
      ['even', 'all touches alike'],
      ['position', 'the first and the last most'],
      ['decay', 'later touches more'],
    ]),
    when(
      ({ credit }) => credit === 'position',
      ', ',
      number('first', 'Percent of the first touch'),
      ' % and ',
      number('last', 'Percent of the last touch'),
      ' %',
    ),
    when(
      ({ credit }) => credit === 'decay',
      ', half as much every ',
      number('halfLife', 'Half-life in days', { unit: ['day', 'days'] }),
    ),
    ', ',
    choice('range', 'Days', daysOptions(view.range)),
    ', against ',
    choice('against', 'Held against', [
      ['before', 'the days before'],
      ['year', 'the year before'],
      ['none', 'nothing'],
    ]),
    ', for ',
    choice('segment', 'Segment', [
      ['', 'every lead'],
      ...view.segments.map(({ id, name }): Option => [id, `“${name}”`]),
    ]),
    '.',
  ];
}

/** What a view was asked for. */
export function askedOf({ counted, by, credit, against, segment, range }: FiguresView): AskedFigures {
  const [kind, ...numbers] = credit.split('.');
  const [first = 40, last = 40] = kind === 'position' ? numbers.map(Number) : [];
  return {
    counted: counted.map((one) => ({ one })),
    by: by.map((one) => ({ one })),
    credit: kind as AskedFigures['credit'],
    first,
    last,
    halfLife: kind === 'decay' ? Number(numbers.join('.')) : 7,
    range: range.choice,
    from: range.firstDay,
    to: range.lastDay,
    against,
    segment,
  };
}

/** The same as it stands in addresses. */
export function askedQuery({
  counted,
  by,
  credit,
  first,
  last,
  halfLife,
  range,
  from,
  to,
  against,
  segment,
}: AskedFigures): Record<string, string> {
  const share = (percent: number) => Math.min(100, Math.max(0, percent));
  const numbers =
    credit === 'position'
      ? `.${share(first)}.${Math.min(share(last), 100 - share(first))}`
      : credit === 'decay'
        ? `.${Math.min(365, Math.max(1, halfLife))}`
        : '';
  return {
    count: counted.map(({ one }) => one).join(','),
    by: by.map(({ one }) => one).join(','),
    credit: `${credit}${numbers}`,
    range,
    ...(range === 'own' ? { from, to } : {}),
    against,
    ...(segment === '' ? {} : { segment }),
  };
}

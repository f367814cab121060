import { partsOf, type Option, type Piece } from '../rules/says';
import { count, type Sentence } from '../strands';
import { changeText, figureText } from './figure-text';
import { measures, measureWords, nounOf, ratios, saysAmounts } from './measures';
import { mostMonths, type MonthsQuery, type MonthsView } from './months-view';

/* Months and quarters as a sentence, whose parts are changed in place: Count leads of each month, of the last 6 months, credit to the last touch. */

export function monthsPieces({
  outcomes,
  seesMoney,
}: Pick<MonthsView, 'outcomes' | 'seesMoney'>): Piece<MonthsQuery>[] {
  const { choice, number } = partsOf<MonthsQuery>();
  return [
    'Count ',
    choice('count', 'What to count', [
      ...[...measures, ...ratios]
        .filter((one) => seesMoney || !saysAmounts(one))
        .map((one): Option => [one, measureWords(one)]),
      ...outcomes.map(({ code, words }): Option => [`outcome.${code}`, `${code}: ${words}`]),
    ]),
    ' of each ',
    choice('each', 'Month or quarter', [
      ['month', 'month'],
      ['quarter', 'quarter'],
    ]),
    ' of the last ',
    number('months', 'Months'),
    ' months, by funnel stage, then channel, credit to ',
    choice('credit', 'Who is credited', [
      ['last', 'the last touch'],
      ['first', 'the first touch'],
    ]),
    '.',
  ];
}

export const monthsAddress = ({ count: counted, each, months, credit }: MonthsQuery): string =>
  new URLSearchParams({
    count: counted,
    each,
    months: String(Math.min(mostMonths, Math.max(1, Math.round(months) || 1))),
    credit,
  }).toString();

/** "31 leads in January 2027, +12 % on the month before." @param name of a period: "January 2027" */
export function monthsSentence(
  { asked, periods, sums, currency }: Pick<MonthsView, 'asked' | 'periods' | 'sums' | 'currency'>,
  name: (period: string) => string,
): Sentence {
  const { count: counted, each } = asked;
  // The newest that is over; one that runs is held against nothing.
  const at = periods.findLastIndex(({ isOver }) => isOver);
  const closed = periods.filter((one) => one.closed !== null).length;
  const under =
    closed === 0
      ? `No ${each} is closed yet. Once one is, its figures stay, and later changes are shown apart.`
      : `${count(closed)} ${closed === 1 ? `${each} is closed: its` : `${each}s are closed: their`} figures stay, and later changes are shown apart.`;
  const figure = sums.figures[at] ?? null;
  if (at === -1 || figure === null) return { title: `Nothing was counted in a ${each} that is over.`, under };
  const change = changeText(figure, at > 0 ? (sums.figures[at - 1] ?? null) : null);
  const what = `${figureText(counted, figure, currency)} ${nounOf(counted, figure)} in ${name(periods[at]!.key)}`;
  return { title: change === '' ? `${what}.` : `${what}, ${change} on the ${each} before.`, under };
}

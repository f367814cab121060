import type { Sentence } from '../strands';
import { allOthers, cellWords, isTime, type Dimension } from './dimensions';
import { figureText } from './figure-text';
import type { FigureRow } from './figures';
import type { FigureRowView, FiguresChart, FiguresQuery } from './figures-view';
import { isRatio, nounOf, type Counted } from './measures';

const spans: Record<Exclude<FiguresQuery['range'], 'own'>, string> = {
  week: 'in 1 week',
  weeks4: 'in 4 weeks',
  cycle: 'in one sales cycle',
  weeks13: 'in 13 weeks',
  release: 'since the last release',
};
const beforeWords: Record<FiguresQuery['against'], string> = {
  before: 'before',
  year: 'a year before',
  none: '',
};

/** What is said of the one that has most. */
const mostWords = (main: Counted) => (main === 'cost' ? 'cost most' : main === 'clicks' ? 'has most' : 'brought most');

/** "31 qualified leads in 4 weeks, 27 before; Paid search brought most, 14." */
export function figuresSentence({
  counted,
  by,
  rows,
  sums,
  against,
  range,
  currency,
}: {
  counted: readonly Counted[];
  by: readonly Dimension[];
  rows: readonly FigureRowView[];
  sums: Pick<FigureRowView, 'figures' | 'before'>;
  against: FiguresQuery['against'];
  range: FiguresQuery['range'];
  currency: string;
}): Sentence {
  const main = counted[0]!;
  const figure = sums.figures[0] ?? null;
  const span = range === 'own' ? 'in these days' : spans[range];
  const under =
    'Visits count on the day they were made, leads on the day they enquired, outcomes on the day they were reached.';
  if (figure === null || rows.length === 0)
    return {
      title: `Nothing to count ${span}.`,
      under: 'Choose other days, or something else to count.',
    };
  const text = (value: number) => figureText(main, value, currency);
  const held = sums.before?.[0] ?? null;
  const top = isRatio(main) || isTime(by[0]!) ? null : topOf(rows);
  return {
    title: [
      `${text(figure)} ${nounOf(main, figure)} ${span}`,
      held === null ? '' : `, ${text(held)} ${beforeWords[against]}`,
      top && top.figure > 0 ? `; ${top.words} ${mostWords(main)}, ${text(top.figure)}` : '',
      '.',
    ].join(''),
    under,
  };
}

/** The group of the first dimension that has most of the first measure; null where there is but one. */
function topOf(rows: readonly FigureRowView[]): { words: string; figure: number } | null {
  const groups = new Map<string, number>();
  for (const { cells, figures } of rows) {
    const { text } = cells[0]!;
    groups.set(text, (groups.get(text) ?? 0) + (figures[0] ?? 0));
  }
  if (groups.size < 2) return null;
  const [words, figure] = [...groups].reduce((most, one) => (one[1] > most[1] ? one : most));
  return { words: words === 'direct' ? 'direct visits' : words === 'not known' ? 'what is not known' : words, figure };
}

/**
 * The course of figures over some days: a line for each of the largest groups, and one for all others together.
 *
 * @param rows their cells are a group, where there is one, and a day, week or month
 * @param labels every day, week or month
 * @param figureOf the figure of some values; what is added up for a ratio is divided afterwards
 * @param rankOf how large a group is
 */
export function seriesOf(
  rows: readonly FigureRow[],
  hasGroup: boolean,
  labels: string[],
  most: number,
  figureOf: (row: Pick<FigureRow, 'values'>) => number | null,
  rankOf: (values: readonly number[]) => number,
): Pick<FiguresChart, 'labels' | 'series'> {
  const width = rows[0]?.values.length ?? 0;
  const groups = new Map<string, { rank: number; at: Map<string, number[]> }>();
  const add = (group: string, label: string, values: readonly number[]) => {
    const known = groups.get(group) ?? { rank: 0, at: new Map<string, number[]>() };
    groups.set(group, known);
    known.rank += rankOf(values);
    const before = known.at.get(label);
    known.at.set(label, before ? before.map((value, i) => value + values[i]!) : [...values]);
  };
  for (const { cells, values } of rows) add(hasGroup ? cells[0]! : allOthers, cells.at(-1)!, values);
  const sorted = [...groups].sort(([a, one], [b, other]) => other.rank - one.rank || (a < b ? -1 : 1));
  // What brought nothing of it has no course, unless nothing did.
  const ranked = sorted.filter(([, { rank }]) => rank !== 0 || sorted[0]![1].rank === 0);
  const rest = ranked.length > most + 1 ? ranked.splice(most) : [];
  if (rest.length > 0) {
    groups.delete(allOthers);
    for (const [, { at }] of rest) for (const [label, values] of at) add(allOthers, label, values);
    ranked.push([allOthers, groups.get(allOthers)!]);
  }
  const none = Array.from({ length: width }, () => 0);
  return {
    labels,
    series: ranked.map(([group, { at }]) => ({
      words: hasGroup ? cellWords(group) : '',
      values: labels.map((label) => figureOf({ values: at.get(label) ?? none })),
    })),
  };
}

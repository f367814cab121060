import { addMonths, differenceInCalendarDays, format, parseISO } from 'date-fns';
import { creditFrom, creditText } from '../../core/results/schema';
import { cellView, dimensionWords, isTime, type Dimension } from '../../core/results/dimensions';
import { totalOf, type FigureRow } from '../../core/results/figures';
import { leftOut } from '../../core/results/cost-words';
import { figurePlain } from '../../core/results/figure-text';
import { figuresSentence, seriesOf } from '../../core/results/figures-words';
import type { FigureRowView, FiguresQuery, FiguresView } from '../../core/results/figures-view';
import {
  figureOf,
  isMoney,
  isOfCost,
  isOfSegment,
  isRatio,
  measuredShare,
  measureWords,
  neededFor,
  ratioOf,
  type Counted,
} from '../../core/results/measures';
import { mayChange } from '../../core/people/rights';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { dayIn } from '../days';
import { pageSize } from '../lists';
import type { Membership } from '../people/people';
import { runInPool } from '../pool';
import type { Releases } from '../releases/releases';
import type { DaySpan } from '../strands/range';
import { readChoices } from '../leads/segments/segments';
import type { DayNotes } from './day-notes';
import type { SavedViews } from './saved-views';
import { dayAfter, longest, makeAsked, visibleTo } from './asked';
import type { WorkedOut } from './work-out';

/** Groups with a line of their own in the chart. */
const mostSeries = 4;

/** What was counted and what it brought, by what led to it. */
export function makeFiguresStation(context: Context, releases: Releases, savedViews: SavedViews, dayNotes: DayNotes) {
  const { daysOf, askedOf } = makeAsked(context, releases);

  /** The rows of a table in the order asked for, all of them, with what they are held against. */
  async function read(membership: Membership, query: FiguresQuery) {
    const { business, role } = membership;
    const release = await releases.live(business.id);
    const counted = visibleTo(role, query.count);
    const { by } = query;
    const { days, before, cycle } = await daysOf(membership, release, query);
    const needed = neededFor(counted);
    const each = bucketOf(days);
    const group = by.find((dimension) => !isTime(dimension));
    // Days of two times never meet, so that only their sums can be held against each other.
    const beforeBy = by.some(isTime) ? [] : by;
    const [own, chart, held] = await runInPool(
      'workOutFigures',
      await askedOf(
        membership,
        release,
        needed,
        [
          { by, days },
          { by: [...(group ? [group] : []), each], days },
          ...(before ? [{ by: beforeBy, days: before }] : []),
        ],
        query,
      ),
      longest,
    );
    const ranking = isRatio(counted[0]!) ? ratioOf[counted[0]].by : counted[0]!;
    const rankOf = (values: readonly number[]) => values[needed.indexOf(ranking)]!;
    const notCounted = (one: Counted) => query.segment !== '' && !isOfSegment(one);
    const figuresOf = ({ values }: { values: number[] }) =>
      counted.map((one) => (notCounted(one) ? null : figureOf(one, (measure) => values[needed.indexOf(measure)]!)));
    const hasShare = counted.some(isOfCost) && query.segment === '';
    const measuredOf = ({ values }: { values: number[] }) =>
      hasShare ? measuredShare((measure) => values[needed.indexOf(measure)]!) : null;
    const sum = (rows: FigureRow[]) => figuresOf({ values: totalOf(rows, needed.length) });
    const heldRows = new Map((held?.rows ?? []).map((row) => [keyOf(row), row]));
    const isHeld = held !== undefined && beforeBy.length > 0;
    const rows = own!.rows.map((row): FigureRowView => {
      const other = heldRows.get(keyOf(row));
      return {
        id: keyOf(row),
        row: JSON.stringify(row.cells),
        cells: row.cells.map((cell, i) => cellView(by[i]!, cell)),
        figures: figuresOf(row),
        measured: measuredOf(row),
        before: isHeld ? figuresOf(other ?? { values: needed.map(() => 0) }) : null,
      };
    });
    return {
      release,
      counted,
      by,
      days,
      before,
      cycle,
      rows: sorted(rows, query, counted, by),
      sums: {
        figures: sum(own!.rows),
        measured: measuredOf({ values: totalOf(own!.rows, needed.length) }),
        before: held ? sum(held.rows) : null,
      },
      chart: {
        each,
        ...seriesOf(
          chart!.rows,
          group !== undefined,
          labelsOf(chart!.rows, days.lastDay, each),
          mostSeries,
          (row) => figuresOf(row)[0]!,
          rankOf,
        ),
      },
      withoutRate: own!.withoutRate,
    };
  }

  return {
    /** One page of a table of figures, with its sums and its course. */
    async view(membership: Membership, query: FiguresQuery): Promise<FiguresView> {
      const { business, role } = membership;
      const { release, rows, counted, by, days, before, cycle, sums, chart, withoutRate } = await read(
        membership,
        query,
      );
      const { credit, against, segment, range, page } = query;
      const largest = counted.map((_, i) => rows.reduce((most, { figures }) => Math.max(most, figures[i] ?? 0), 0));
      return {
        sentence: figuresSentence({ counted, by, rows, sums, against, range, currency: business.currency }),
        counted,
        by,
        credit: creditText(creditFrom(credit)),
        against,
        segment,
        segments: await readChoices(context, business.id, role.personId, segment),
        outcomes: release.content.outcomes.map(({ code, words }) => ({ code, words })),
        seesMoney: role.seesMoney,
        range: { choice: range, ...days, cycleDays: cycle, release: release.number },
        before,
        rows: rows.slice((page - 1) * pageSize, page * pageSize),
        total: rows.length,
        page,
        pageSize,
        sums,
        largest,
        chart,
        dayNotes: await dayNotes.within(business.id, days.firstDay, days.lastDay),
        saved: await savedViews.list(business.id, 'figures'),
        mayChange: mayChange(role),
        notes: notesOf(query, counted, withoutRate, days.lastDay > dayIn(business.timeZone, nowMs() - 30 * 86_400_000)),
        currency: business.currency,
        timeZone: business.timeZone,
      };
    },

    /** The whole table for a file: its heading, and a row of texts for each row. */
    async table(membership: Membership, query: FiguresQuery): Promise<string[][]> {
      const { rows, counted, by, sums } = await read(membership, query);
      const { currency } = membership.business;
      const isHeld = rows.some(({ before }) => before !== null);
      const hasShare = counted.some(isOfCost);
      const shareOf = ({ measured }: Pick<FigureRowView, 'measured'>) =>
        hasShare ? [measured === null ? '' : String(Math.round(measured * 10_000) / 10_000)] : [];
      const figuresOf = ({ figures, before }: Pick<FigureRowView, 'figures' | 'before'>) =>
        counted.flatMap((one, i) =>
          [figures[i], ...(isHeld ? [before?.[i]] : [])].map((figure) =>
            figure === null || figure === undefined ? '' : figurePlain(one, figure, currency),
          ),
        );
      const heading = [
        ...by.map(dimensionWords),
        ...counted.flatMap((one) => {
          const name = isMoney(one) ? `${measureWords(one)} (${currency})` : measureWords(one);
          return isHeld ? [name, `${name}, before`] : [name];
        }),
        ...(hasShare ? ['measured share'] : []),
      ];
      return [
        heading,
        ...rows.map((row) => [...row.cells.map(({ text }) => text), ...figuresOf(row), ...shareOf(row)]),
        [...by.map((_, i) => (i === 0 ? 'all together' : '')), ...figuresOf(sums), ...shareOf(sums)],
      ];
    },
  };
}

const keyOf = ({ cells }: { cells: string[] }): string => cells.join('\n');

/** By what a course over some days is drawn: so that it has no more than some forty points. */
function bucketOf({ firstDay, lastDay }: DaySpan): 'day' | 'week' | 'month' {
  const length = differenceInCalendarDays(parseISO(lastDay), parseISO(firstDay)) + 1;
  return length <= 40 ? 'day' : length <= 280 ? 'week' : 'month';
}

/** Every day, week or month from the first in which anything was counted, also those without anything. */
function labelsOf(rows: readonly FigureRow[], lastDay: string, each: 'day' | 'week' | 'month'): string[] {
  const first = rows.map(({ cells }) => cells.at(-1)!).sort()[0];
  if (first === undefined) return [];
  const labels: string[] = [];
  for (let day = each === 'month' ? `${first}-01` : first; day <= lastDay; day = next(day, each))
    labels.push(each === 'month' ? day.slice(0, 7) : day);
  return labels;
}

const next = (day: string, each: 'day' | 'week' | 'month'): string =>
  each === 'month' ? format(addMonths(parseISO(day), 1), 'yyyy-MM-dd') : dayAfter(day, each === 'week' ? 7 : 1);

/** In the order asked for: by a measure or by what it is broken down by; times in their order where nothing is asked. */
function sorted(
  rows: FigureRowView[],
  { sort, descending, find }: FiguresQuery,
  counted: readonly Counted[],
  by: readonly Dimension[],
): FigureRowView[] {
  const wanted = find.toLowerCase();
  const found = wanted
    ? rows.filter(({ cells }) => cells.some(({ text }) => text.toLowerCase().includes(wanted)))
    : rows;
  const cell = by.indexOf(sort as Dimension);
  const isByTime = sort === '' && isTime(by[0]!);
  const at = cell >= 0 ? cell : isByTime ? 0 : -1;
  const measure = Math.max(0, counted.indexOf(sort as Counted));
  const sign = isByTime || descending === 'no' ? 1 : -1;
  const textOf = ({ cells }: FigureRowView) => cells.map(({ text }) => text).join('\n');
  return found.sort((a, b) => {
    if (at >= 0) {
      const order = a.cells[at]!.text.localeCompare(b.cells[at]!.text, 'en', { numeric: true });
      if (order !== 0) return sign * order;
    } else {
      const [one, other] = [a.figures[measure] ?? null, b.figures[measure] ?? null];
      if (one === null || other === null) {
        if (one !== other) return one === null ? 1 : -1;
      } else if (one !== other) return sign * (one - other);
    }
    return textOf(a) < textOf(b) ? -1 : 1;
  });
}

/** What is true of the figures and cannot be seen in them. */
function notesOf(
  { segment }: FiguresQuery,
  counted: readonly Counted[],
  withoutRate: WorkedOut['withoutRate'],
  isYoung: boolean,
): string[] {
  const needed = neededFor(counted);
  return [
    ...(segment !== '' && !counted.every(isOfSegment)
      ? ['Visits and subscriptions are not counted for a segment: it is one of leads.']
      : []),
    ...(segment !== '' && needed.includes('cost') ? ['Cost is that of everyone, not of the segment alone.'] : []),
    ...(counted.includes('profit_30_per_visitor')
      ? [
          isYoung
            ? 'Profit in 30 days is that of each visitor’s first 30 days; those of the last visitors are not over yet.'
            : 'Profit in 30 days is that of each visitor’s first 30 days.',
        ]
      : []),
    ...(needed.includes('lifetime')
      ? ['Life-time profit is what subscriptions that began in these days have brought until today.']
      : []),
    ...leftOut('Revenue and profit', 'are', withoutRate.ofOutcomes),
    ...leftOut('Cost', 'is', withoutRate.ofCosts),
    ...(counted.some(isOfCost)
      ? ['Measured: how many of the clicks that platforms report landed here, of the same campaigns and days.']
      : []),
  ];
}

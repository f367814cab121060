import { creditFrom, creditText } from '../../core/results/schema';
import { cellView, dimensionWords, isTime } from '../../core/results/dimensions';
import { totalOf, type FigureRow } from '../../core/results/figures';
import { leftOut } from '../../core/results/cost-words';
import { figurePlain } from '../../core/results/figure-text';
import { stillWorking, type Told } from '../../core/results/progress';
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
import { runReporting } from '../pool';
import type { Releases } from '../releases/releases';
import { readChoices } from '../leads/segments/segments';
import type { DayNotes } from './day-notes';
import type { SavedViews } from './saved-views';
import type { AskedFigures } from './asked-figures';
import { longest, makeAsked, visibleTo } from './asked';
import { bucketOf, labelsOf, sorted } from './figures-order';
import type { WorkedOut } from './work-out';
import { isLong, isThereWithin, makeWorkings } from './workings';

/** A page looks so often (ms) whether its figures are there, or are known to take long and it is shown without them. */
const patience = 800;
/** How often (ms) it is told how far they are. */
const sayEach = 500;
/** Groups with a line of their own in the chart. */
const mostSeries = 4;

/** What was counted and what it brought, by what led to it. */
export function makeFiguresStation(context: Context, releases: Releases, savedViews: SavedViews, dayNotes: DayNotes) {
  const { daysOf, askedOf } = makeAsked(context, releases);

  const workOut = makeWorkings<AskedFigures, WorkedOut[]>((asked, onProgress) =>
    runReporting('workOutFigures', asked, longest, onProgress),
  );

  /** What is asked for, and its answer as it is being worked out. */
  async function begin(membership: Membership, query: FiguresQuery) {
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
    const tables = [
      { by, days },
      { by: [...(group ? [group] : []), each], days },
      ...(before ? [{ by: beforeBy, days: before }] : []),
    ];
    const working = workOut(await askedOf(membership, release, needed, tables, query));
    return { membership, query, release, counted, by, days, before, cycle, needed, each, group, beforeBy, working };
  }
  type Begun = Awaited<ReturnType<typeof begin>>;

  /** The rows of a table in the order asked for, all of them, with what they are held against. */
  async function read({ query, counted, by, days, needed, each, group, beforeBy, working }: Begun) {
    const [own, chart, held] = await working.answer;
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

  /** All that a page says of figures before these are known. */
  async function frameOf({ membership, query, release, counted, by, days, before, cycle, working }: Begun) {
    const { business, role } = membership;
    const { credit, against, segment, range, page } = query;
    return {
      working: working.progress,
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
      page,
      pageSize,
      dayNotes: await dayNotes.within(business.id, days.firstDay, days.lastDay),
      saved: await savedViews.list(business.id, 'figures'),
      mayChange: mayChange(role),
      currency: business.currency,
      timeZone: business.timeZone,
    };
  }

  /** One page of a table of figures, with its sums and its course. */
  async function viewOf(begun: Begun): Promise<FiguresView> {
    const { membership, query, counted, by, days } = begun;
    const { business } = membership;
    const { rows, sums, chart, withoutRate } = await read(begun);
    const { against, range, page } = query;
    const isYoung = days.lastDay > dayIn(business.timeZone, nowMs() - 30 * 86_400_000);
    return {
      ...(await frameOf(begun)),
      working: null,
      sentence: figuresSentence({ counted, by, rows, sums, against, range, currency: business.currency }),
      rows: rows.slice((page - 1) * pageSize, page * pageSize),
      total: rows.length,
      sums,
      largest: counted.map((_, i) => rows.reduce((most, { figures }) => Math.max(most, figures[i] ?? 0), 0)),
      chart,
      notes: notesOf(query, counted, withoutRate, isYoung),
    };
  }

  return {
    view: async (membership: Membership, query: FiguresQuery) => viewOf(await begin(membership, query)),

    /** The same for a page: what takes long is left to be followed, and its page says how far it is. */
    async open(membership: Membership, query: FiguresQuery): Promise<FiguresView> {
      const begun = await begin(membership, query);
      const { working } = begun;
      // A thread that has just begun is slow to begin with, whatever it does.
      // eslint-disable-next-line no-await-in-loop -- one look after the other
      while (!isLong(working)) if (await isThereWithin(working.answer, patience)) return viewOf(begun);
      if (await isThereWithin(working.answer, patience)) return viewOf(begun);
      const nothing = begun.counted.map(() => null);
      return {
        ...(await frameOf(begun)),
        sentence: stillWorking,
        rows: [],
        total: 0,
        sums: { figures: nothing, before: null, measured: null },
        largest: [],
        chart: { labels: [], each: begun.each, series: [] },
        notes: [],
      };
    },

    /** How far it is, twice a second, and then the answer. */
    async *follow(membership: Membership, query: FiguresQuery): AsyncGenerator<Told<FiguresView>> {
      const begun = await begin(membership, query);
      const { working } = begun;
      // eslint-disable-next-line no-await-in-loop -- one look after the other
      while (!(await isThereWithin(working.answer, sayEach))) yield { progress: { ...working.progress } };
      yield { answer: await viewOf(begun) };
    },

    /** The whole table for a file: its heading, and a row of texts for each row. */
    async table(membership: Membership, query: FiguresQuery): Promise<string[][]> {
      const begun = await begin(membership, query);
      const { counted, by } = begun;
      const { rows, sums } = await read(begun);
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

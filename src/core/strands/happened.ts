import { count, counted } from '../counted';
import { beginsElsewhere, type WayIn } from '../ways-in';
import type { Column, Line } from './line';
import type { Sentence } from './sentence';
import { hopNameOf } from './toward';
import type { Hop } from './types';

/** Whether a line is shown as it is followed from the click, or as it happened. */
export const lineViews = ['followed', 'happened'] as const;
export type LineViewKind = (typeof lineViews)[number];

/** Hops that are counted by when they happened: those of the way itself. What is before them happens on the day a strand is first seen. */
export const happeningHops = ({ hops, own }: WayIn): readonly Hop[] => hops.slice(hops.indexOf(own));

/**
 * The line of what happened in some days. Up to Kept it is that of the cohort, as strands are first seen when they land; from
 * then on each hop has the count of those that made it in these days, whenever they were first seen, and nothing is followed
 * from hop to hop.
 *
 * @param made strands that made each of `happeningHops` in these days
 */
export function lineOfDays(cohort: Line, made: ReadonlyMap<Hop, number>, way: WayIn): Line {
  const first = way.hops.indexOf(way.own);
  const notFollowed = { lost: 0, left: 0, waiting: 0, unknown: 0, leftReasons: [], waitingReasons: [] };
  return {
    ...cohort,
    columns: cohort.columns.map((column, i): Column => {
      if (i < first - 1) return column;
      const count = i < first ? column.count : (made.get(column.hop) ?? 0);
      return { hop: column.hop, count, ...notFollowed };
    }),
    losses: cohort.losses.filter(({ to }) => way.hops.indexOf(to) < first),
  };
}

/**
 * "In these days 2,310 clicks landed, 41 reached Form sent, 30 In CRM, 12 Qualified and 9 Confirmed."
 * @param of what it is narrowed to, as `lineSentence` has it, and `outcome` too
 */
export function happenedSentence({ columns }: Line, way: WayIn, of = '', outcome = ''): Sentence {
  const at = (hop: Hop) => columns.find((column) => column.hop === hop)?.count ?? 0;
  const [own, ...later] = happeningHops(way).filter((hop) => hop !== 'told');
  const reached = `${beginsElsewhere(way) ? counted(at(own!), way.one, way.many) : count(at(own!))} reached ${hopNameOf(way, outcome, own!)}`;
  const steps = [
    ...(beginsElsewhere(way) ? [] : [`${counted(at('landed'), 'click', 'clicks')} landed`]),
    reached,
    ...later.map((hop) => `${count(at(hop))} ${hopNameOf(way, outcome, hop)}`),
  ];
  return {
    title: `In these days${of && `, ${of},`} ${steps.slice(0, -1).join(', ')} and ${steps.at(-1)}.`,
    under: 'Each hop counts the clicks that made it in these days, whenever they were first seen.',
  };
}

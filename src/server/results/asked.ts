import { addDays, differenceInCalendarDays, format, parseISO, subYears } from 'date-fns';
import { creditFrom } from '../../core/results/schema';
import type { Dimension } from '../../core/results/dimensions';
import type { FiguresQuery } from '../../core/results/figures-view';
import { saysAmounts, type Counted, type Measure } from '../../core/results/measures';
import { waysInOf, type Release } from '../../core/releases';
import { waysIn } from '../../core/ways-in';
import type { Context } from '../context';
import type { RoleRow } from '../db';
import { readNarrowing } from '../leads/segments/segments';
import type { Membership } from '../people/people';
import type { Releases } from '../releases/releases';
import { makeChosen } from '../strands/chosen';
import { periodOf, type DaySpan } from '../strands/range';
import { askedOfBusiness } from './asked-business';
import { readCostPlaces } from './cost-places';
import type { AskedFigures } from './asked-figures';

/** Longest that figures are worked out (ms). */
export const longest = 60_000;

/** What somebody may see of what is to be counted; leads where that is nothing. */
export function visibleTo({ seesMoney }: RoleRow, counted: readonly Counted[]): Counted[] {
  const visible = counted.filter((one) => seesMoney || !saysAmounts(one));
  return visible.length > 0 ? visible : ['leads'];
}

/** What an address asks for, made into days and into what a thread of the pool takes. */
export function makeAsked(context: Context, releases: Releases) {
  const { rangeOf } = makeChosen(context, releases);

  async function daysOf(
    membership: Membership,
    release: Release,
    { range, from, to, against }: Pick<FiguresQuery, 'range' | 'from' | 'to' | 'against'>,
  ) {
    const way = waysIn[waysInOf(release)[0]!];
    const { range: found, cycle } = await rangeOf(membership.business, release, way, { range, from, to });
    const { firstDay, lastDay } = found;
    const days = { firstDay, lastDay };
    return { days, before: earlier(days, against), cycle };
  }

  /** What a thread of the pool is asked. */
  async function askedOf(
    { business, role }: Membership,
    release: Release,
    needed: Measure[],
    tables: { by: Dimension[]; days: DaySpan }[],
    { credit, segment: id }: Pick<FiguresQuery, 'credit' | 'segment'>,
  ): Promise<AskedFigures> {
    const segment = await readNarrowing(context, business, role, release, id);
    const { outcomes, ladders, qualified } = release.content;
    return {
      ...askedOfBusiness(context, business, release),
      rules: { outcomes, ladders, qualified },
      counted: needed,
      tables: tables.map(({ by, days }) => ({
        by,
        ...days,
        ...periodOf(days.firstDay, days.lastDay, business.timeZone),
      })),
      model: creditFrom(credit),
      segment: segment?.where ?? null,
      accounts: await readCostPlaces(context, business, release.content),
    };
  }

  return { daysOf, askedOf };
}

export const dayAfter = (day: string, days: number): string => format(addDays(parseISO(day), days), 'yyyy-MM-dd');

/** The days that some days are held against. */
function earlier({ firstDay, lastDay }: DaySpan, against: FiguresQuery['against']): DaySpan | null {
  if (against === 'none') return null;
  if (against === 'year')
    return {
      firstDay: format(subYears(parseISO(firstDay), 1), 'yyyy-MM-dd'),
      lastDay: format(subYears(parseISO(lastDay), 1), 'yyyy-MM-dd'),
    };
  const length = differenceInCalendarDays(parseISO(lastDay), parseISO(firstDay)) + 1;
  return { firstDay: dayAfter(firstDay, -length), lastDay: dayAfter(firstDay, -1) };
}

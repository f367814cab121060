import { qualifiedOutcome, readTagBy, waysInOf, type Release } from '../../core/releases';
import { candidateHop, narrowTo, type RangeChoice, type StrandListQuery } from '../../core/strands';
import { beginsElsewhere, waysIn, type WayIn } from '../../core/ways-in';
import type { Context } from '../context';
import type { BusinessRow, RoleRow } from '../db';
import { readNarrowing } from '../leads/segments/segments';
import { mostInFile } from '../lists';
import type { Releases } from '../releases/releases';
import { readArrived, type Arrived } from './clicked';
import type { Narrowing } from './narrowing';
import { findStrands, readCycleHours, type StrandFilter } from './queries';
import { cycleDays, resolveRange, type DaysChoice, type Range } from './range';
import { findToward, readToward, type Toward } from './toward';

export const newestFirst = { find: '', corrected: '', sort: 'first_at', descending: 'yes', page: 1 } as const;
export const followed = { view: 'followed' } as const;
export const madeIt = { ...newestFirst, state: 'made_it', reason: '', mark: '' } as const;

/** What an address of a line chooses: its way in, its days, and what it is narrowed to. */
export function makeChosen(context: Context, releases: Releases) {
  const { db } = context;

  /** The days that are chosen; a sales cycle is as long as on a way in. */
  async function rangeOf<Choice extends RangeChoice['range'] | 'weeks13'>(
    business: BusinessRow,
    release: Release,
    way: WayIn,
    choice: DaysChoice<Choice>,
  ) {
    const first = await releases.numbered(business.id, 1);
    const qualified = qualifiedOutcome(release, way.kind);
    const cycle = qualified ? cycleDays(await readCycleHours(db, business.id, qualified.code, way.kind)) : null;
    return {
      cycle,
      range: resolveRange(choice, business, { cycle, releasedAt: Math.max(first.madeAt, release.madeAt) }),
    };
  }

  /** The way in that is shown: the one asked for, where this business uses it. */
  function wayOf(release: Release, { way }: RangeChoice): WayIn {
    const used = waysInOf(release);
    return waysIn[used.includes(way) ? way : used[0]!];
  }

  /** What the rows behind a line's numbers are narrowed to. */
  async function narrowOf(
    business: BusinessRow,
    role: RoleRow,
    release: Release,
    choice: RangeChoice,
    range: Range,
  ): Promise<Narrowing> {
    const isByTags = choice.platform !== '' || choice.campaign !== '';
    const [segment, arrived] = await Promise.all([
      readNarrowing(context, business, role, release, choice.segment),
      isByTags ? readArrived(db, business, range) : null,
    ]);
    const narrowing = { segment, tags: arrived && narrowedBy(release, arrived, choice).tags };
    return { ...narrowing, toward: await towardOf(business.id, release, choice, range, narrowing) };
  }

  /** How strands stand toward the outcome that a line is narrowed to; null where that is the Qualified of its way in. */
  async function towardOf(
    businessId: string,
    release: Release,
    choice: RangeChoice,
    { period }: Range,
    narrowing: Omit<Narrowing, 'toward'>,
  ): Promise<Toward | null> {
    const way = wayOf(release, choice);
    const { outcome, view } = choice;
    if (outcome === '' || outcome === ownOutcome(release, way)) return null;
    const candidates = filterOn(way, { ...madeIt, hop: candidateHop(way) }, { ...narrowing, toward: null }, followed);
    const ids =
      view === 'followed'
        ? await findStrands(db, businessId, period, candidates, null, false, { limit: mostInFile })
        : await findToward(context, businessId, period, way, outcome, narrowing);
    return readToward(context, businessId, release, way, outcome, ids);
  }

  return { wayOf, rangeOf, narrowOf, towardOf };
}

/** What a line is narrowed to of what arrived in its days, and the campaigns that it can be narrowed to. */
export const narrowedBy = (
  release: Release,
  { origins, reported }: Arrived,
  choice: Pick<RangeChoice, 'platform' | 'campaign'>,
) => narrowTo(origins, reported, readTagBy(release), release.content.capture.keep.clickIds, choice);

/** The code of the Qualified of a way in, whose line needs no narrowing to it; '' where what came in is not qualified. */
export const ownOutcome = (release: Release, way: WayIn): string =>
  way.hops.includes('qualified') ? (qualifiedOutcome(release, way.kind)?.code ?? '') : '';

/** A list's query on a way in; a hop that it does not have is taken for the landing, or for where the way begins. */
export const filterOn = (
  way: WayIn,
  query: StrandListQuery,
  narrowing: Narrowing,
  { view }: Pick<RangeChoice, 'view'>,
): StrandFilter => ({
  ...query,
  ...narrowing,
  view,
  way: way.kind,
  hop: way.hops.includes(query.hop) ? query.hop : beginsElsewhere(way) ? way.own : 'landed',
});

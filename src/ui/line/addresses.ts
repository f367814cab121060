import {
  wayInKinds,
  type Hop,
  type HopState,
  type RangeView,
  type StrandListQuery,
  type WayInKind,
} from '../../core/strands';

/** The range as it stands in addresses. */
export function rangeQuery({
  choice,
  firstDay,
  lastDay,
}: Pick<RangeView, 'choice' | 'firstDay' | 'lastDay'>): Record<string, string> {
  return choice === 'own' ? { range: choice, from: firstDay, to: lastDay } : { range: choice };
}

/** The way in as it stands in addresses; the first one is not named. */
export const wayQuery = (way: WayInKind): Record<string, string> => (way === wayInKinds[0] ? {} : { way });

/** The page with the strands behind one number of a way in's line. */
export function strandsAddress(
  business: string,
  { range, way }: { range: RangeView; way: WayInKind },
  number: { hop: Hop; state: HopState; reason?: string } | { mark: StrandListQuery['mark'] },
): string {
  return `/b/${business}/strands?${new URLSearchParams({ ...rangeQuery(range), ...wayQuery(way), ...number })}`;
}

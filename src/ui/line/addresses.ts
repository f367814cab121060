import {
  wayInKinds,
  type Hop,
  type HopState,
  type RangeView,
  type StrandListQuery,
  type WayInKind,
} from '../../core/strands';

/** The range as it stands in addresses. */
function rangeQuery({
  choice,
  firstDay,
  lastDay,
}: Pick<RangeView, 'choice' | 'firstDay' | 'lastDay'>): Record<string, string> {
  return choice === 'own' ? { range: choice, from: firstDay, to: lastDay } : { range: choice };
}

/** The days, the way in and the segment that a line shows, as they stand in addresses. */
export interface Shown {
  range: RangeView;
  way: WayInKind;
  segment: string;
}
export const shownQuery = ({ range, way, segment }: Shown): Record<string, string> => ({
  ...rangeQuery(range),
  ...wayQuery(way),
  ...segmentQuery(segment),
});

/** The segment as it stands in addresses. */
export const segmentQuery = (segment: string): Record<string, string> => (segment === '' ? {} : { segment });

/** The way in as it stands in addresses; the first one is not named. */
export const wayQuery = (way: WayInKind): Record<string, string> => (way === wayInKinds[0] ? {} : { way });

/** The page with the strands behind one number of a line. */
export function strandsAddress(
  business: string,
  shown: Shown,
  number: { hop: Hop; state: HopState; reason?: string; corrected?: 'yes' } | { mark: StrandListQuery['mark'] },
): string {
  return `/b/${business}/strands?${new URLSearchParams({ ...shownQuery(shown), ...number })}`;
}

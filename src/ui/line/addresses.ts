import {
  lineViews,
  wayInKinds,
  type Hop,
  type HopState,
  type LineView,
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

/** The days and the way in that a line shows, how, and what it is narrowed to, as they stand in addresses. */
export type Shown = Pick<LineView, 'range' | 'way' | 'view' | 'segment' | 'platform' | 'campaign' | 'outcome'>;
export const shownQuery = ({ range, ...rest }: Shown): Record<string, string> => ({
  ...rangeQuery(range),
  ...restQuery(rest),
});

/** The same without the days. */
export const restQuery = ({
  way,
  view,
  segment,
  platform,
  campaign,
  outcome,
}: Omit<Shown, 'range'>): Record<string, string> => ({
  ...wayQuery(way),
  ...Object.fromEntries(
    Object.entries({ view: view === lineViews[0] ? '' : view, segment, platform, campaign, outcome }).filter(
      ([, value]) => value !== '',
    ),
  ),
});

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

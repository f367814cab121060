import type { Hop, HopState, RangeView, StrandListQuery } from '../../core/strands';

/** The range as it stands in addresses. */
export function rangeQuery({
  choice,
  firstDay,
  lastDay,
}: Pick<RangeView, 'choice' | 'firstDay' | 'lastDay'>): Record<string, string> {
  return choice === 'own' ? { range: choice, from: firstDay, to: lastDay } : { range: choice };
}

/** The page with the strands behind one number of the line. */
export function strandsAddress(
  business: string,
  range: RangeView,
  number: { hop: Hop; state: HopState; reason?: string } | { mark: StrandListQuery['mark'] },
): string {
  return `/b/${business}/strands?${new URLSearchParams({ ...rangeQuery(range), ...number })}`;
}

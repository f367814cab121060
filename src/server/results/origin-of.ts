import type { Origin, TouchValues } from '../../core/results/dimensions';

/** What a visit's touch came with; null throughout where it has none, as its LEFT JOIN reads it. */
export type JoinedTouch = { [Value in keyof TouchValues]: string | null };

/** Where a visit came from: its touch, or direct. */
export const originOf = ({
  source,
  medium,
  campaign,
  content,
  term,
  platform,
  landing,
  referrerHost,
}: JoinedTouch): Origin =>
  source === null
    ? 'direct'
    : {
        source,
        medium: medium ?? '',
        campaign: campaign ?? '',
        content: content ?? '',
        term: term ?? '',
        platform: platform ?? '',
        landing: landing ?? '',
        referrerHost: referrerHost ?? '',
      };

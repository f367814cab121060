import { isAlone, type LatestRow, type BoughtWayIn } from '../../core/strands';
import { waysIn } from '../../core/ways-in';
import { originWords, type Release } from '../../core/releases';
import { orNull, pick, uuid, type Read } from '../db';
import { standingWords } from '../leads/list';
import { standing } from './standing';
import { strands } from './table';

/** What a list of what was bought reads of the strand `s` that each is counted for, where it has one, and of its standing. */
export const boughtStrand = {
  strandId: uuid().of('s.id').nullable(),
  ...orNull(pick(strands, ['kind', 'source', 'medium'], 's')),
  ...standing,
};

/**
 * One of the newest orders, subscriptions or conversions, with how far its newest click came.
 * @param last the hop that it made where no click is known; '' for none
 */
export function latestBought(
  way: BoughtWayIn,
  { strandId, kind, source, medium, reached, state: stands, reason }: Read<typeof boughtStrand>,
  { id, number, at, last }: { id: string; number: string; at: Date; last: string },
  release: Release,
): LatestRow {
  const isKnown = kind !== null && !isAlone({ kind });
  const { lastHop, state, why } = isKnown
    ? standingWords(waysIn[way], reached, stands, reason, release)
    : { lastHop: last, state: 'unknown' as const, why: 'no click known' };
  return {
    id,
    path: strandId ? `/strands/${strandId}?way=${way}` : null,
    title: number,
    at: at.toISOString(),
    cameFrom: isKnown ? originWords(release, source ?? '', medium ?? '') : 'not known',
    lastHop,
    state,
    why,
  };
}

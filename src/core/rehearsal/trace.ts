import { formWordsOf, type Release } from '../releases';
import { traceHops } from '../strands';
import { waysIn } from '../ways-in';
import type { Followed } from './follow';
import type { RehearsalView } from './view';

/** What is followed, as Trace shows it; null where nothing is. */
export const traceOf = (followed: Followed | null, release: Release, timeZone: string): RehearsalView['trace'] =>
  followed && {
    way: followed.way,
    hops: traceHops(followed.strand, followed.hops, waysIn[followed.way], formWordsOf(release)),
    values: followed.values,
    timeZone,
  };

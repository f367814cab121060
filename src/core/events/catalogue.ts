import { distance } from 'fastest-levenshtein';

/** What a place knows of the names it counts, and which of them is meant by one that it does not know. */
export interface CatalogueView {
  /** What it knows; null where it cannot be asked, and `problem` says why. */
  known: string[] | null;
  problem: string;
}

/** The most letters by which two spellings of one name differ. */
const mostDifferent = 2;

/** A name that a place knows and that is nearly the same; '' where none is. */
export function nearestKnown(name: string, known: readonly string[]): string {
  const same = known.find((one) => one.toLowerCase() === name.toLowerCase());
  if (same !== undefined) return same;
  const [nearest] = known
    .map((one) => ({ one, apart: distance(one.toLowerCase(), name.toLowerCase()) }))
    .filter(({ apart }) => apart <= mostDifferent)
    .sort((a, b) => a.apart - b.apart);
  return nearest?.one ?? '';
}

const day = 86_400_000;
/** Visitors remembered of a day; those who sent least lately are forgotten first. */
const mostVisitors = 200_000;

/**
 * Counts hits of each visitor and day in this process. A browser that sends thousands is a program, or somebody who sends
 * under another's ID; what it sends beyond that would be worked out again and again.
 *
 * @param most hits of one visitor a day (UTC)
 */
export function makeVisitorLimit(most: number) {
  const counts = new Map<string, number>();
  let today = 0;
  /**
   * @param at ms
   * @returns `taken`; `apart` for as many again, to be looked at; `refused` from then on
   */
  return function count(business: string, visitor: string, at: number): 'taken' | 'apart' | 'refused' {
    const now = Math.floor(at / day);
    if (now > today) {
      today = now;
      counts.clear();
    }
    const key = `${business} ${visitor}`;
    const hits = (counts.get(key) ?? 0) + 1;
    // Whoever sends goes to the end.
    counts.delete(key);
    counts.set(key, hits);
    if (counts.size > mostVisitors) counts.delete(counts.keys().next().value!);
    return hits <= most ? 'taken' : hits <= 2 * most ? 'apart' : 'refused';
  };
}

/** What was to be told to one account of one outcome within a day. */
export interface DayOfTellings {
  count: number;
  /** Minor units, of all together. */
  worth: number;
  /** How old the clicks were when it happened, in days, on average; null where that is not known. */
  clickDays: number | null;
}

/** Why what is to be told is held as one: it is far outside of what is usual, or new. */
export type BrakeBecause = 'count' | 'worth' | 'age' | 'new';
export interface Brake {
  because: BrakeBecause;
  /** What it is, and the most that it usually is in a day: how many, minor units, or days. */
  is: number;
  usual: number;
}

/** Days with something to tell that must be known before anything is called usual, and how many of it. */
const leastKnown = { days: 5, rows: 20 };

/**
 * Whether what came to be told within the last day is far outside of what was usual in the eight weeks before, so that a
 * person looks at it before a platform is told. Far outside is
 *
 * - more than three times as many as on the busiest day, and more than 20;
 * - worth more than five times the best day, and each on average more than three times as on the best of all days;
 * - at least ten whose clicks are on average more than three times as old as on the day with the oldest, and over 14 days.
 *
 * Where fewer than five days or 20 rows are known nothing is usual, and nothing is held.
 *
 * @param before the days before that had something to tell
 */
export function brakeOf(lately: DayOfTellings, before: readonly DayOfTellings[]): Brake | null {
  const known = before.reduce((sum, { count }) => sum + count, 0);
  if (before.length < leastKnown.days || known < leastKnown.rows) return null;
  const most = (read: (day: DayOfTellings) => number) => Math.max(0, ...before.map(read));
  const count = most((day) => day.count);
  if (lately.count > Math.max(20, 3 * count)) return { because: 'count', is: lately.count, usual: count };
  const worth = most((day) => day.worth);
  const each = most((day) => day.worth / day.count);
  if (worth > 0 && lately.worth > 5 * worth && lately.worth / lately.count > 3 * each)
    return { because: 'worth', is: lately.worth, usual: worth };
  const age = most(({ clickDays }) => clickDays ?? 0);
  if (lately.count >= 10 && (lately.clickDays ?? 0) > Math.max(14, 3 * age))
    return { because: 'age', is: Math.round(lately.clickDays!), usual: Math.round(age) };
  return null;
}

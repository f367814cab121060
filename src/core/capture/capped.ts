/** After so many days some browsers end the cookies that scripts set. */
export const scriptCookieDays = 7;

/** Returns of visitors within some weeks, by the engine of their browser: how many came within 7 days, how many later. */
export interface Returns {
  browser: string;
  soon: number;
  later: number;
}

/** Fewer returns than these say nothing. */
const fewest = { soon: 20, elsewhere: 20, expected: 5 };

/** A kind of browser that forgets visitors after 7 days, and about how many it made strangers of. */
export interface Capped {
  browser: string;
  soon: number;
  strangers: number;
}

/**
 * Browsers that end cookies of scripts after 7 days, told from nothing but who came back (fault of no page, seen in no
 * single hit): many come back within 7 days and none later, where of all others so many do that at least five were to
 * be expected. The number of strangers is that expectation.
 */
export function cappedBrowsers(all: Returns[]): Capped[] {
  return all.flatMap(({ browser, soon, later }) => {
    if (browser === '' || later > 0 || soon < fewest.soon) return [];
    const others = all.filter((one) => one.browser !== browser && one.later > 0);
    const sum = (of: 'soon' | 'later') => others.reduce((total, one) => total + one[of], 0);
    if (sum('soon') < fewest.elsewhere) return [];
    const strangers = Math.round((soon * sum('later')) / sum('soon'));
    return strangers >= fewest.expected ? [{ browser, soon, strangers }] : [];
  });
}

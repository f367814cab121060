import type { EventRule } from './schema';

/** A page that visitors reach in place of the one that an event waits for. */
export interface MovedPage {
  /** The path that the event waits for, and the one that visitors reach now. */
  was: string;
  now: string;
  /** The page from which both are reached. */
  from: string;
  /** How many reached it since. */
  count: number;
}

/** Arrivals at a page from another one, counted. Pages are host and path. */
export interface Step {
  from: string;
  to: string;
  count: number;
}

const pathOf = (page: string): string => page.slice(page.indexOf('/'));

/** The paths that an event waits for, as far as they are whole ones. */
export const awaitedPaths = ({ cues }: EventRule): string[] =>
  cues.flatMap(({ kind, part, test, text }) =>
    kind === 'arrives' && part === 'path' && test === 'equals' && text !== '' ? [text] : [],
  );

/**
 * The page that took the place of one that an event waits for: a page of which nobody knew before, reached from where the
 * old one was reached from; null where there is none.
 *
 * @param before steps to the awaited page, while it was still reached
 * @param since steps to pages that nobody reached before
 */
export function movedPage(before: readonly Step[], since: readonly Step[]): MovedPage | null {
  const usual = [...before].sort((a, b) => b.count - a.count);
  for (const { from, to } of usual) {
    const [next] = since.filter((step) => step.from === from && step.to !== to).sort((a, b) => b.count - a.count);
    if (next) return { was: pathOf(to), now: pathOf(next.to), from: pathOf(from), count: next.count };
  }
  return null;
}

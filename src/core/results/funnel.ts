import { median } from '../strands/range';

/*
 * Funnels: how many of those who began went on, step by step, and where the others went instead. A journey is one visit, or
 * one browser for so many days.
 */

/** Something that somebody did, at (ms), and which steps it may stand for. */
export interface Done {
  at: number;
  fits: readonly number[];
}

/** How far one journey came. */
export interface Walked {
  /** When (ms) each step was made; null where it was not. */
  times: (number | null)[];
  /** The last step that was made. */
  last: number;
}

/**
 * How far somebody came. Steps are made in their order, each after the one before, none twice by one thing; what may be skipped is
 * made only on the way to the next that may not. Of several beginnings the one counts that leads farthest, of those the first.
 *
 * @param skips whether each step may be skipped; the first never is
 * @param done in the order of time
 * @param from ms, and `to`: it begins within these
 * @param within ms from its beginning in which all of it has to happen
 * @returns null where it never began
 */
export function walk(
  skips: readonly boolean[],
  done: readonly Done[],
  from: number,
  to: number,
  within: number,
): Walked | null {
  let best: Walked | null = null;
  for (let begin = 0; begin < done.length; begin++) {
    const { at, fits } = done[begin]!;
    if (at < from || at >= to || !fits.includes(0)) continue;
    const walked = walkFrom(skips, done, begin, at + within);
    if (best === null || walked.last > best.last) best = walked;
    if (best.last === skips.length - 1) break;
  }
  return best;
}

function walkFrom(skips: readonly boolean[], done: readonly Done[], begin: number, end: number): Walked {
  const times: (number | null)[] = skips.map(() => null);
  times[0] = done[begin]!.at;
  let last = 0;
  for (let i = begin + 1; i < done.length && last < skips.length - 1; i++) {
    const { at, fits } = done[i]!;
    if (at > end) break;
    const limit = nextNeeded(skips, last);
    const step = Math.max(...fits.filter((one) => one > last && one <= limit));
    if (step > last) {
      times[step] = at;
      last = step;
    }
  }
  return { times, last };
}

/** The next step after one that may not be skipped; the last one where all may. */
export function nextNeeded(skips: readonly boolean[], after: number): number {
  const next = skips.findIndex((skip, step) => step > after && !skip);
  return next === -1 ? skips.length - 1 : next;
}

/** What a funnel says of one step. */
export interface StepCounts {
  /** Journeys that made it. */
  made: number;
  /** Of those that made the step before that may not be skipped: neither this nor any later one, with no time left. */
  lost: number;
  /** The same with time left. */
  open: number;
  /** Half of those that made it took no longer (ms) since the step before that they made; null where nobody did. */
  median: number | null;
}

/** Journeys that are counted, one after the other. */
export function countSteps(skips: readonly boolean[]) {
  const counts = skips.map(() => ({ made: 0, lost: 0, open: 0, took: [] as number[] }));
  return {
    /** @param isOpen whether there is time left to go on */
    add({ times, last }: Walked, isOpen: boolean): void {
      times.forEach((at, step) => {
        if (at === null) return;
        counts[step]!.made += 1;
        const before = times.slice(0, step).findLast((one) => one !== null);
        if (before !== undefined && before !== null) counts[step]!.took.push(at - before);
      });
      const missed = missedBy(skips, last);
      if (missed !== null) counts[missed]![isOpen ? 'open' : 'lost'] += 1;
    },
    steps: (): StepCounts[] => counts.map(({ made, lost, open, took }) => ({ made, lost, open, median: median(took) })),
  };
}

/** The step that a journey did not make and had to; null where it came to the end. */
export function missedBy(skips: readonly boolean[], last: number): number | null {
  const next = skips.findIndex((skip, step) => step > last && !skip);
  return next === -1 ? null : next;
}

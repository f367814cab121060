import type { CreditModel } from './schema';
import { shareOut } from './share-out';

/** A touch on the way to an outcome. `at` in ms. */
export interface PathTouch {
  id: string;
  at: number;
}

/** What a touch is credited with, in minor units. */
export interface Credit {
  touch: string;
  minor: number;
}

/** The weight of a touch that nothing is taken from; weights are whole, so that what they share out is exact. */
const whole = 2 ** 20;
const day = 86_400_000;

/**
 * Shares the worth of an outcome out to the touches that led to it. The credits add up to the worth exactly, whatever the
 * order in which the touches are given. No touch after `until` gets any, a single one gets all; where none is known the
 * answer is empty: that is *not known*, and never *direct*.
 *
 * A corrected worth is shared out like the first one, so a refund takes from each touch what it was credited with.
 *
 * @param worth minor units; negative where an outcome cost more than it brought
 * @param until when the outcome happened or, of a stage or deal, when the enquiry came in (ms)
 */
export function creditTouches(
  worth: number,
  touches: readonly PathTouch[],
  until: number,
  model: CreditModel,
): Credit[] {
  const { path, weights } = weighTouches(touches, until, model);
  if (path.length === 0) return [];
  const shares = shareOut(worth, weights);
  return path.map(({ id }, i) => ({ touch: id, minor: shares[i]! }));
}

/**
 * The touches that led to something, oldest first, with the weight of each in what is shared out to them: once for all that
 * it brought.
 */
export function weighTouches<Touch extends PathTouch>(
  touches: readonly Touch[],
  until: number,
  model: CreditModel,
): { path: Touch[]; weights: number[] } {
  const path = touches.filter(({ at }) => at <= until).sort(inOrder);
  return { path, weights: path.length === 0 ? [] : weigh(path, model) };
}

const inOrder = (a: PathTouch, b: PathTouch) => a.at - b.at || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);

/** Weights of a path's touches, oldest first: whole numbers, of which one at least is above 0. */
function weigh(path: readonly PathTouch[], model: CreditModel): number[] {
  const last = path.length - 1;
  switch (model.kind) {
    case 'last':
      return path.map((_, i) => (i === last ? 1 : 0));
    case 'first':
      return path.map((_, i) => (i === 0 ? 1 : 0));
    case 'even':
      return path.map(() => 1);
    case 'position':
      return weighByPosition(path.length, model);
    case 'decay':
      // From the newest back, which is the same in proportion and leaves it a weight however old all of them are.
      return path.map(({ at }) => Math.round(whole * 2 ** ((at - path[last]!.at) / (model.halfLifeDays * day))));
  }
}

/** Percent of the first, the last, and in equal parts of those between; two touches share by what the ends have. */
function weighByPosition(touches: number, { first, last }: { first: number; last: number }): number[] {
  const between = touches - 2;
  if (between < 0) return [1];
  if (between === 0) return first + last > 0 ? [first, last] : [1, 1];
  const rest = 100 - first - last;
  return [first * between, ...Array.from({ length: between }, () => rest), last * between];
}

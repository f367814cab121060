import type { LadderRule, Money } from './schema';

/** An outcome that was reached, what it is worth by itself (null where it has no worth), and the ladder that it is on. */
export interface ReachedStep {
  code: string;
  worth: Money | null;
  ladder: LadderRule | undefined;
}

/**
 * What outcomes of one deal, order or subscription are worth beside one another. Of several with the same code, such as
 * payments, the first is the step of its ladder; each other one is worth what it is by itself.
 *
 * @param reached in the order in which they happened
 */
export function worthsBeside(reached: readonly ReachedStep[]): (Money | null)[] {
  const steps = new Map<string, ReachedStep>();
  for (const one of reached) if (!steps.has(one.code)) steps.set(one.code, one);
  const worths = new Map([...steps].map(([code, { worth }]) => [code, worth]));
  return reached.map((one) => (steps.get(one.code) === one ? addedWorth(one.ladder, one.code, worths) : one.worth));
}

/**
 * What a step of a ladder is worth beside the others that were reached (rule 16). Where each tells what it adds, they sum up to
 * the worth of the highest one that was reached, never to more: a step is worth what it is worth by itself, or what a higher
 * one is worth where that is less, without what those before it are worth so.
 *
 * @param ladder that it is on; undefined for none
 * @param code of the step
 * @param reached what each outcome that was reached is worth by itself, by its code; null where it has no worth
 */
function addedWorth(
  ladder: LadderRule | undefined,
  code: string,
  reached: ReadonlyMap<string, Money | null>,
): Money | null {
  const own = reached.get(code) ?? null;
  if (!own || ladder?.tells !== 'what it adds') return own;
  const worths = ladder.steps.flatMap((step): [step: string, minor: number][] => {
    const worth = reached.get(step);
    return worth?.currency === own.currency ? [[step, worth.minor]] : [];
  });
  const at = worths.findIndex(([step]) => step === code);
  /** The worth up to a step: no more than that of any higher one. */
  const upTo = (place: number) => (place < 0 ? 0 : Math.min(...worths.slice(place).map(([, minor]) => minor)));
  return { ...own, minor: upTo(at) - upTo(at - 1) };
}

/** The ladder that an outcome is on; undefined for none. */
export const ladderOf = (ladders: readonly LadderRule[], code: string): LadderRule | undefined =>
  ladders.find(({ steps }) => steps.includes(code));

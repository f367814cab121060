/** A seeded source of randomness: the same seed gives the same demo (mulberry32). */
export interface Random {
  /** From 0 to 1, 1 not included. */
  next(): number;
  whole(from: number, to: number): number;
  chance(share: number): boolean;
  pick<T>(list: readonly T[]): T;
  /** Picks by weight. */
  weighted<T>(list: readonly (readonly [weight: number, value: T])[]): T;
  /** A waiting time around `middle`, with a long tail (log-normal). */
  wait(middle: number, spread: number): number;
  bytes(count: number): Uint8Array;
}

export function makeRandom(seed: number): Random {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
  return {
    next,
    whole: (from, to) => from + Math.floor(next() * (to - from + 1)),
    chance: (share) => next() < share,
    pick: (list) => list[Math.floor(next() * list.length)]!,
    weighted(list) {
      let at = next() * list.reduce((sum, [weight]) => sum + weight, 0);
      for (const [weight, value] of list) {
        at -= weight;
        if (at < 0) return value;
      }
      return list.at(-1)![1];
    },
    wait(middle, spread) {
      const normal = Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
      return Math.round(middle * Math.exp(spread * normal));
    },
    bytes: (count) => Uint8Array.from({ length: count }, () => Math.floor(next() * 256)),
  };
}

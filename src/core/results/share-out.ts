/**
 * Shares an amount out by weights, to the last minor unit: each gets its part rounded down, and what is left over goes, one
 * unit each, to those whose parts lost most by it; of equal ones the earlier gets it (the method of the largest remainder).
 *
 * @param amount minor units, which may be below 0: then each gets what it would of the amount without its sign, below 0
 * @param weights whole numbers of 0 or more, of which one at least is above 0
 * @returns a whole number for each weight; together they are the amount
 */
export function shareOut(amount: number, weights: readonly number[]): number[] {
  if (amount < 0) return shareOut(-amount, weights).map((share) => 0 - share);
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  return Number.isSafeInteger(amount * total)
    ? shareOutExactly(amount, weights, total)
    : shareOutLarge(BigInt(amount), weights, BigInt(total));
}

function shareOutExactly(amount: number, weights: readonly number[], total: number): number[] {
  const left = weights.map((weight) => (amount * weight) % total);
  const shares = weights.map((weight, i) => (amount * weight - left[i]!) / total);
  return giveRest(shares, amount, (a, b) => left[b]! - left[a]!);
}

/** The same where the products are beyond what a number holds exactly. */
function shareOutLarge(amount: bigint, weights: readonly number[], total: bigint): number[] {
  const left = weights.map((weight) => (amount * BigInt(weight)) % total);
  const shares = weights.map((weight) => Number((amount * BigInt(weight)) / total));
  return giveRest(shares, Number(amount), (a, b) => (left[b]! > left[a]! ? 1 : left[b]! < left[a]! ? -1 : 0));
}

/** @param order compares two by their places: whose part lost more comes first; equal ones stay in their order */
function giveRest(shares: number[], amount: number, order: (a: number, b: number) => number): number[] {
  const rest = amount - shares.reduce((sum, share) => sum + share, 0);
  if (rest === 0) return shares;
  for (const i of [...shares.keys()].sort(order).slice(0, rest)) shares[i]! += 1;
  return shares;
}

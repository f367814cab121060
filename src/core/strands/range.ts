/** The days a view is about: from the beginning of one business day (ms) to an instant (ms), not included. */
export interface Period {
  from: number;
  to: number;
}

/** The middle of a list of numbers: the mean of the two middle ones where their count is even; null of none. */
export function median(values: number[]): number | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}

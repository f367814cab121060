import type { TagSet } from './schema';

/** A row of the grid: a landing page with its tags. */
export interface GridRow {
  landing: string;
  tags: Record<string, string>;
}

/**
 * Every landing page with every combination of a tag set's values, in the order of pages, then of tags.
 *
 * @param most rows at most; the rest is left out and counted
 */
export function combine(
  landings: string[],
  set: Pick<TagSet, 'tags'>,
  most: number,
): { rows: GridRow[]; leftOut: number } {
  let combinations: Record<string, string>[] = [{}];
  let all = 1;
  for (const [tag, values] of Object.entries(set.tags)) {
    if (values.length === 0) continue;
    all *= values.length;
    combinations = combinations
      .flatMap((before) => values.map((value) => ({ ...before, [tag]: value })))
      .slice(0, most);
  }
  const rows = landings
    .flatMap((landing) => combinations.map((tags) => ({ landing, tags: { ...tags } })))
    .slice(0, most);
  return { rows, leftOut: all * landings.length - rows.length };
}

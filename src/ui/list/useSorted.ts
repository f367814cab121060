import { useState } from 'react';

export interface Sorting<Key extends string> {
  by: Key;
  descending: boolean;
}

/**
 * Rows that are all on the page, sorted by the column that was picked; picked again the other way round.
 * @param start the column and direction to begin with
 */
export function useSorted<Row, Key extends string & keyof Row>(rows: Row[], start: Sorting<Key>) {
  const [sorting, setSorting] = useState(start);
  const { by, descending } = sorting;
  const sorted = [...rows].sort((a, b) => (descending ? -1 : 1) * compare(a[by], b[by]));
  const sortBy = (key: Key) =>
    setSorting((before) => ({ by: key, descending: before.by === key ? !before.descending : false }));
  return { sorted, sorting, sortBy };
}

/** Numbers by size, texts as people order them; what is not there comes last. */
function compare(a: unknown, b: unknown): number {
  if (a === b) return 0;
  if (a === null || a === '') return 1;
  if (b === null || b === '') return -1;
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  return String(a).localeCompare(String(b), 'en', { numeric: true });
}

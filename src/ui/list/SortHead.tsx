import { ArrowDown, ArrowUp } from 'lucide-react';
import type { Sorting } from './useSorted';

/** A column's heading by which a list is sorted. */
export function SortHead<Key extends string>({
  words,
  column,
  sorting,
  onSort,
  right = false,
}: {
  words: string;
  column: Key;
  sorting: Sorting<Key>;
  onSort: (column: Key) => void;
  right?: boolean;
}) {
  const isBy = sorting.by === column;
  return (
    <th
      scope="col"
      className={right ? 'text-right!' : ''}
      aria-sort={isBy ? (sorting.descending ? 'descending' : 'ascending') : undefined}
    >
      <button
        type="button"
        className="inline-flex cursor-pointer items-center gap-1 hover:underline"
        onClick={() => onSort(column)}
      >
        {words}
        {isBy && (sorting.descending ? <ArrowDown size={13} aria-hidden /> : <ArrowUp size={13} aria-hidden />)}
      </button>
    </th>
  );
}

import { useEffect, useState } from 'react';
import { isPlainKey } from '../keys/plain-key';

/** What a key does with the row that is marked, by the key's name; Enter opens. */
export type RowKeys<Row> = Record<string, (row: Row) => void>;

/**
 * `j` and `k` move through the rows, and each further key acts on the row that is marked.
 * @param open place of the row that is open beside the list, which counts as marked until another one is; -1 without
 * @returns the marked row's place, or null
 */
export function useRowKeys<Row>(rows: Row[], keys?: RowKeys<Row>, open = -1): number | null {
  const [marked, setMarked] = useState<number | null>(null);
  // Rows can go while one of them is marked.
  const last = rows.length - 1;
  const selected = marked !== null && last >= 0 ? Math.min(marked, last) : open >= 0 ? open : null;
  useEffect(() => {
    if (!keys) return;
    const onKey = (event: KeyboardEvent) => {
      // Enter on a link or a button is theirs.
      if (!isPlainKey(event) || /^(BUTTON|A)$/.test((event.target as HTMLElement).tagName)) return;
      if (event.key === 'j' || event.key === 'k') {
        const step = event.key === 'j' ? 1 : -1;
        setMarked((before) => (last < 0 ? null : Math.min(last, Math.max(0, (before ?? open) + step))));
      } else if (selected !== null) keys[event.key]?.(rows[selected]!);
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });
  useEffect(() => {
    if (selected !== null) document.querySelector(`[data-row="${selected}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  return selected;
}

import { useEffect, useState } from 'react';
import { isPlainKey } from '../keys/plain-key';

/** `j` and `k` move through the rows, Enter opens the one that is marked. Returns the marked row, or null. */
export function useRowKeys(rows: number, open: (index: number) => void): number | null {
  const [marked, setSelected] = useState<number | null>(null);
  // Rows can go while one of them is marked.
  const selected = marked === null || rows === 0 ? null : Math.min(marked, rows - 1);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      // Enter on a link or a button is theirs.
      if (!isPlainKey(event) || /^(BUTTON|A)$/.test((event.target as HTMLElement).tagName)) return;
      if (event.key === 'j' || event.key === 'k') {
        const step = event.key === 'j' ? 1 : -1;
        setSelected((before) => (rows === 0 ? null : Math.min(rows - 1, Math.max(0, (before ?? -1) + step))));
      } else if (event.key === 'Enter' && selected !== null) open(selected);
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });
  useEffect(() => {
    if (selected !== null) document.querySelector(`[data-row="${selected}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  return selected;
}

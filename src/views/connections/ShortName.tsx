import { useEffect, useRef } from 'react';
import { businessKey } from '../../core/businesses/key';

/** Gives a new description the short name that its words make, as long as nobody wrote another one. */
export function ShortName({ words, kind, onKind }: { words: string; kind: string; onKind: (kind: string) => void }) {
  const given = useRef(kind);
  useEffect(() => {
    if (words.trim() === '' || given.current !== kind) return;
    const next = businessKey(words, new Set()).replace(/^[^a-z]+/, '');
    if (next.length < 2 || next === kind) return;
    given.current = next;
    onKind(next);
  }, [words, kind, onKind]);
  return null;
}

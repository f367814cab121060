import { useSyncExternalStore } from 'react';
import type { RuleChange } from '../../core/rules';

/*
 * The rules that somebody is writing on this page and has not put into the draft: what is being edited is what the
 * rehearsal walks by.
 */

const written = new Map<string, RuleChange>();
const listeners = new Set<() => void>();
let now: RuleChange[] = [];

/** Says that a rule is being written; null once it is not any more. @param place of its editor */
export function sayEditing(place: string, change: RuleChange | null): void {
  if (change) written.set(place, change);
  else if (!written.delete(place)) return;
  now = [...written.values()];
  listeners.forEach((tell) => tell());
}

function listen(tell: () => void): () => void {
  listeners.add(tell);
  return () => void listeners.delete(tell);
}

const nothing: RuleChange[] = [];

/** The rules that are being written on this page. */
export const useEditing = (): RuleChange[] =>
  useSyncExternalStore(
    listen,
    () => now,
    () => nothing,
  );

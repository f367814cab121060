import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { RehearsalView, Trait } from '../../core/rehearsal/view';
import { onDraftChanged } from '../rule/draft-changed';
import { useEditing } from '../rule/editing';
import { useSettled } from '../rule/useSettled';
import { keepWritten, readWritten } from '../form/written';
import { sendJson } from '../text/read';

/** What somebody rehearses, as it is written in the dock; `saved`: the saved one that it began from. */
export interface Written {
  lines: string[];
  traits: Trait[];
  /** Facts that are expected of it, by their keys. */
  expected: { key: string; is: string }[];
  saved: { id: string; name: string; seen: string } | null;
  /** By which rules. */
  rules: 'draft' | 'live';
  /** Whether what is shown is one's own browser on the real pages. */
  isReal: boolean;
  isOpen: boolean;
}

const nothingWritten: Written = {
  lines: [],
  traits: [],
  expected: [],
  saved: null,
  rules: 'draft',
  isReal: false,
  isOpen: false,
};
const openName = 'avrix-rehearse';
const savedName = 'avrix-rehearsal-saved';

/** Says on the page that a rehearsal was saved. */
export const sayRehearsalSaved = () => window.dispatchEvent(new Event(savedName));

/** Calls back whenever one was saved on this page. @returns what ends it */
export function onRehearsalSaved(then: () => void): () => void {
  window.addEventListener(savedName, then);
  return () => window.removeEventListener(savedName, then);
}

const nameOf = (business: string) => `${business} rehearsal`;

const beforeOf = (business: string) => `${nameOf(business)} before`;

/** Opens the dock with a rehearsal, wherever on the page it is asked for; what was written in it can be brought back. */
export function openRehearsal(business: string, wanted: Partial<Written>): void {
  const before = readWritten<Written>(nameOf(business));
  if (before && before.lines.length > 0) keepWritten(beforeOf(business), before);
  keepWritten(nameOf(business), { ...nothingWritten, ...wanted, isOpen: true });
  window.dispatchEvent(new Event(openName));
}

/** Brings back what was written before another rehearsal was opened, or it was cleared; null where nothing was. */
export function rehearsalBefore(business: string): (() => void) | null {
  const before = readWritten<Written>(beforeOf(business));
  return before && (() => openRehearsal(business, before));
}

/** What is rehearsed in this tab: other pages and a reload go on from it. */
export function useWritten(business: string): [Written, (part: Partial<Written>) => void] {
  const [written, setWritten] = useState(nothingWritten);
  useEffect(() => {
    const read = () => setWritten({ ...nothingWritten, ...readWritten<Written>(nameOf(business)) });
    read();
    window.addEventListener(openName, read);
    return () => window.removeEventListener(openName, read);
  }, [business]);
  const write = (part: Partial<Written>) =>
    setWritten((before) => {
      const after = { ...before, ...part };
      keepWritten(nameOf(business), after);
      return after;
    });
  return [written, write];
}

/** Walks what is written: by what is live, or by the draft with the rules that are being written on this page. */
export function useWalk(business: string, { lines, traits, rules }: Pick<Written, 'lines' | 'traits' | 'rules'>) {
  const [draftNumber, setDraftNumber] = useState(0);
  useEffect(() => onDraftChanged(() => setDraftNumber((before) => before + 1)), []);
  const editing = useSettled(useEditing()).map(({ kind, id, value }) => ({ kind, id, value }));
  return useQuery({
    queryKey: ['rehearse', business, lines, traits, rules, editing, draftNumber],
    queryFn: () => sendJson<RehearsalView>(`/api/b/${business}/rehearse`, { lines, traits, rules, editing }),
    placeholderData: keepPreviousData,
    enabled: lines.length > 0,
    staleTime: 5000,
  });
}

import { useMutation } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { sendJson } from '../../ui/text/read';

/**
 * Takes out what is kept, with a way back until something else is taken out.
 *
 * @param api the address of its kind
 * @param onDone is given what the server answers
 */
export function useTakenOut<One extends { id: string }, Answer>(api: string, onDone: (answer: Answer) => unknown) {
  const [gone, setGone] = useState<One | null>(null);
  const retire = useMutation({
    mutationFn: ({ one, retired }: { one: One; retired: boolean }) =>
      sendJson<Answer>(`${api}/retire`, { id: one.id, retired }),
    onSuccess: (answer, { one, retired }) => {
      setGone(retired ? one : null);
      return onDone(answer);
    },
  });
  return {
    /** What was taken out last; null for nothing. */
    gone,
    takeOut: (one: One) => retire.mutate({ one, retired: true }),
    undo: () => gone && retire.mutate({ one: gone, retired: false }),
    problem: retire.error?.message,
  };
}

/** Takes one out. @param label "Take out note 1" */
export const TakeOut = ({ label, onPress }: { label: string; onPress: () => void }) => (
  <button
    type="button"
    className="text-quiet hover:text-error ml-1 cursor-pointer align-middle"
    aria-label={label}
    onClick={onPress}
  >
    <X size={14} aria-hidden />
  </button>
);

/** Says what was taken out, and brings it back. */
export const TakenOut = ({ words, onUndo }: { words: string; onUndo: () => void }) => (
  <span role="status">
    {words} is taken out.{' '}
    <button type="button" className="quiet-link cursor-pointer" onClick={onUndo}>
      Undo
    </button>
  </span>
);

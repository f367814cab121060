import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Open } from '../address/useOpen';
import { sendJson } from '../text/read';
import { useWritten } from './useWritten';

/**
 * What somebody writes of a thing that has a name, outside of a form: it stays in this tab until it is saved or dropped, and is
 * opened once it is. Whoever went on to another thing meanwhile stays there.
 *
 * @param name of what is being written
 * @param api takes it by POST, with its ID, '' for a new one; answers with the ID
 * @param names that are taken
 */
export function useKept<Written extends { name: string; seen: string }>(
  name: string,
  api: string,
  open: Open,
  names: readonly string[],
) {
  const client = useQueryClient();
  const { value, set, saved } = useWritten<Written | null>(name, null, (written) => written === null);
  const [problem, setProblem] = useState('');
  const save = useMutation({
    mutationFn: (given: Written & { id: string }) => sendJson<{ id: string }>(api, given),
    onSuccess: () => {
      saved();
      return client.invalidateQueries();
    },
    onError: (error) => setProblem(error.message),
  });
  const keep = (given: Written & { id: string }) =>
    save.mutate(given, {
      onSuccess: ({ id }) => {
        set(null);
        setProblem('');
        open.pick(id);
      },
    });
  return {
    /** What is written; null where nothing is. */
    value,
    set,
    isSaving: save.isPending,
    problem,
    setProblem,
    keep,
    /** Keeps a copy under a name of its own at once. */
    copy(written: Written) {
      const nameOf = (n: number) => `${written.name}, copy${n > 1 ? ` ${n}` : ''}`;
      let n = 1;
      while (names.includes(nameOf(n))) n += 1;
      keep({ ...written, id: '', name: nameOf(n), seen: '' });
    },
  };
}

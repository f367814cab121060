import { useCallback, useState } from 'react';

const mostSteps = 100;

/** A value with its former ones, so that steps can be taken back and made again. */
export function useHistory<V>(start: () => V) {
  const [state, setState] = useState<{ past: V[]; value: V; future: V[] }>(() => ({
    past: [],
    value: start(),
    future: [],
  }));
  const begin = useCallback((value: V) => setState({ past: [], value, future: [] }), []);
  return {
    value: state.value,
    canUndo: state.past.length > 0,
    /** Begins anew, with nothing to take back. */
    begin,
    set: (value: V) =>
      setState((before) => ({ past: [...before.past, before.value].slice(-mostSteps), value, future: [] })),
    undo: () =>
      setState((before) => {
        const value = before.past.at(-1);
        if (value === undefined) return before;
        return { past: before.past.slice(0, -1), value, future: [before.value, ...before.future] };
      }),
    redo: () =>
      setState((before) => {
        const [value, ...future] = before.future;
        if (value === undefined) return before;
        return { past: [...before.past, before.value], value, future };
      }),
  };
}

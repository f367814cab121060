import { useEffect, useState } from 'react';

export interface ListState {
  find: string;
  sort: string;
  descending: boolean;
  page: number;
}

const settleAfter = 200;

/**
 * How a list stands, kept in the address so that it can be shared and Back works. What else is in the address (a range,
 * a hop) stays there.
 *
 * @returns the state with its query, and a function that changes it; typing settles before it is asked for
 */
export function useListState(
  search: string,
  usualSort: string,
): [ListState & { query: string }, (next: Partial<ListState>) => void] {
  const [state, setState] = useState<ListState>(() => {
    const given = new URLSearchParams(search);
    return {
      find: given.get('find') ?? '',
      sort: given.get('sort') ?? usualSort,
      descending: given.get('descending') !== 'no',
      page: Number(given.get('page')) || 1,
    };
  });
  const [query, setQuery] = useState(() => new URLSearchParams(search).toString());

  useEffect(() => {
    const wait = setTimeout(() => {
      const next = new URLSearchParams(search);
      const put = (name: string, value: string, usual: string) =>
        value === usual ? next.delete(name) : next.set(name, value);
      put('find', state.find, '');
      put('sort', state.sort, usualSort);
      put('descending', state.descending ? 'yes' : 'no', 'yes');
      put('page', String(state.page), '1');
      setQuery(next.toString());
      history.replaceState(null, '', next.size > 0 ? `?${next}` : location.pathname);
    }, settleAfter);
    return () => clearTimeout(wait);
  }, [state, search, usualSort]);

  return [{ ...state, query }, (next) => setState((before) => ({ ...before, ...next }))];
}

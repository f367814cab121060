import { useEffect, useState } from 'react';

/**
 * A piece of what a page shows that is in its address, so that it can be shared and Back works.
 * @param search the address's query at the first drawing
 */
export function useAddressPart(name: string, search: string): [string, (value: string) => void] {
  const [value, setValue] = useState(() => new URLSearchParams(search).get(name) ?? '');
  useEffect(() => {
    const read = () => setValue(new URLSearchParams(location.search).get(name) ?? '');
    return onAddress(read);
  }, [name]);
  return [value, (next) => goTo({ [name]: next })];
}

const moved = 'avrix-address';

/** Calls back when the page's address changes, by Back or by the page itself. @returns what ends it */
function onAddress(then: () => void): () => void {
  addEventListener('popstate', then);
  addEventListener(moved, then);
  return () => {
    removeEventListener('popstate', then);
    removeEventListener(moved, then);
  };
}

/** Changes parts of the page's address as one step of its history; '' takes a part away. */
export function goTo(parts: Record<string, string>): void {
  const query = new URLSearchParams(location.search);
  for (const [name, value] of Object.entries(parts))
    if (value) query.set(name, value);
    else query.delete(name);
  history.pushState(null, '', query.size > 0 ? `?${query}` : location.pathname);
  dispatchEvent(new Event(moved));
}

import { useEffect, useState } from 'react';

/**
 * A piece of what a page shows that stands in its address, so that it can be shared and Back works.
 * @param search the address's query at the first drawing
 */
export function useAddressPart(name: string, search: string): [string, (value: string) => void] {
  const [value, setValue] = useState(() => new URLSearchParams(search).get(name) ?? '');
  useEffect(() => {
    const onBack = () => setValue(new URLSearchParams(location.search).get(name) ?? '');
    addEventListener('popstate', onBack);
    return () => removeEventListener('popstate', onBack);
  }, [name]);
  return [
    value,
    (next) => {
      const query = new URLSearchParams(location.search);
      if (next) query.set(name, next);
      else query.delete(name);
      history.pushState(null, '', query.size > 0 ? `?${query}` : location.pathname);
      setValue(next);
    },
  ];
}

import { useEffect, useState } from 'react';
import { keepWritten, readWritten } from './written';

/**
 * What somebody writes outside of a form, kept in this tab until it is saved or dropped.
 *
 * @param name of what is being written
 * @param start what it begins with
 * @param isBlank whether there is nothing in it to keep
 */
export function useWritten<T>(name: string, start: T, isBlank: (written: T) => boolean) {
  const [value, setValue] = useState(start);
  useEffect(() => {
    const written = readWritten<T>(name);
    if (written) setValue(written);
  }, [name]);
  const set = (next: T) => {
    setValue(next);
    keepWritten(name, isBlank(next) ? null : next);
  };
  return {
    value,
    set,
    /** It is saved: it stays on the screen, and is not there again when the page is opened anew. */
    saved: () => keepWritten(name, null),
  };
}

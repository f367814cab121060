import { useEffect, useState } from 'react';

/** What is being written, once nothing of it has changed for a moment: what is asked of the server goes by that. */
export function useSettled<T>(value: T, afterMs = 250): T {
  const [settled, setSettled] = useState(value);
  const text = JSON.stringify(value);
  useEffect(() => {
    const wait = setTimeout(() => setSettled(JSON.parse(text) as T), afterMs);
    return () => clearTimeout(wait);
  }, [text, afterMs]);
  return settled;
}

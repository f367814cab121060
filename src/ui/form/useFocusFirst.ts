import { useEffect, useRef, type RefObject } from 'react';

/** Leads into the first field of what is being made, so that `n` is followed by typing. @param isWanted where it is new */
export function useFocusFirst<E extends HTMLElement>(isWanted: boolean): RefObject<E | null> {
  const ref = useRef<E>(null);
  useEffect(() => {
    if (isWanted)
      ref.current?.querySelector<HTMLElement>('input:not([readonly]):not([disabled]), textarea, select')?.focus();
  }, [isWanted]);
  return ref;
}

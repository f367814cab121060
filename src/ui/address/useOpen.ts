import { goTo, useAddressPart } from './useAddressPart';

/** What is open beside a list. */
export interface Open {
  /** Its name; '' where none is picked or a new one is being made. */
  id: string;
  /** Whether a new one is being made. */
  isNew: boolean;
  /** The address of one. */
  href(id: string): string;
  pick(id: string): void;
  make(): void;
  close(): void;
}

/**
 * What is open beside a list, in the address: `?<name>=<id>`, or `?new=yes` while a new one is made, so that nothing
 * can have a name that means an action.
 *
 * @param parts of the address that say what one new thing begins with; they go with it
 */
export function useOpen(name: string, search: string, parts: readonly string[] = []): Open {
  const gone = Object.fromEntries(parts.map((part) => [part, '']));
  const [id] = useAddressPart(name, search);
  const [fresh] = useAddressPart('new', search);
  return {
    id: fresh ? '' : id,
    isNew: fresh !== '',
    href: (one) => `?${new URLSearchParams({ [name]: one })}`,
    pick: (next) => goTo({ ...gone, [name]: next, new: '' }),
    make: () => goTo({ ...gone, [name]: '', new: 'yes' }),
    close: () => goTo({ ...gone, [name]: '', new: '' }),
  };
}

/** A list in the browser's own storage; where that is blocked or full, in this page's memory. */
export function makeStored<One>(key: string, toText: (list: One[]) => string) {
  let memory: One[] = [];
  return {
    read(): One[] {
      try {
        const stored: unknown = JSON.parse(localStorage.getItem(key) ?? '[]');
        return Array.isArray(stored) ? (stored as One[]) : [];
      } catch {
        return memory;
      }
    },
    /** An empty list leaves nothing behind. */
    write(list: One[]): void {
      memory = list;
      try {
        if (list.length > 0) localStorage.setItem(key, toText(list));
        else localStorage.removeItem(key);
      } catch {
        // Memory holds it for this page.
      }
    },
  };
}

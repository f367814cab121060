/**
 * Stores what comes side by side together: while one lot is being stored, the next gathers.
 * @returns stores one item, and is done once it is stored; throws what storing its lot threw
 */
export function makeGathered<T>(store: (items: T[]) => Promise<void>): (item: T) => Promise<void> {
  let last: Promise<void> = Promise.resolve();
  let gathering: { items: T[]; stored: Promise<void> } | null = null;
  return (item) => {
    if (gathering === null) {
      const items: T[] = [];
      const stored = last.then(() => {
        gathering = null;
        return store(items);
      });
      gathering = { items, stored };
      last = stored.catch(() => undefined);
    }
    gathering.items.push(item);
    return gathering.stored;
  };
}

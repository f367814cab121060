import { setTimeout as wait } from 'node:timers/promises';

/** How long (ms) an answer of the database is taken as known. */
const usuallyFreshFor = 2000;
/** How long (ms) somebody waits for it to be read anew, where an older answer is there. */
const patience = 150;

interface Known<T> {
  value: T;
  asked: number;
}

/**
 * Remembers what was read by key. An answer older than `freshFor` (ms) is read anew, once for all who ask; where the
 * database is slow or away, what was known last is given instead, so that the edge goes on answering.
 */
export function makeLastKnown<T>(read: (key: string) => Promise<T>, freshFor = usuallyFreshFor) {
  const known = new Map<string, Known<T>>();
  const reading = new Map<string, Promise<T>>();

  function refresh(key: string): Promise<T> {
    const running = reading.get(key);
    if (running) return running;
    const isWanted = () => reading.get(key) === started;
    const started: Promise<T> = read(key)
      .then((value) => {
        // What was begun before it was to be forgotten may have been read before what changed it.
        if (!isWanted()) return value;
        if (known.size > 1000) known.clear();
        known.set(key, { value, asked: performance.now() });
        return value;
      })
      .catch((error: unknown) => {
        const before = known.get(key);
        if (!before) throw error;
        before.asked = performance.now();
        return before.value;
      })
      .finally(() => isWanted() && reading.delete(key));
    reading.set(key, started);
    return started;
  }

  return {
    async get(key: string): Promise<T> {
      const before = known.get(key);
      if (!before) return refresh(key);
      if (performance.now() - before.asked < freshFor) return before.value;
      return Promise.race([refresh(key), wait(patience, before.value)]);
    },
    /** Has the next one read anew, also where a read is under way. */
    forget(key: string): void {
      known.delete(key);
      reading.delete(key);
    },
  };
}

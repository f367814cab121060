import { LRUCache } from 'lru-cache';

/** How many answers are kept; those asked for longest ago go first. */
const most = 5000;

/** A judgement about a text that comes again and again, such as a user agent: made once for each of the newest texts. */
export function remembered<T extends string | boolean>(judge: (text: string) => T): (text: string) => T {
  const known = new LRUCache<string, T>({ max: most, memoMethod: judge });
  return (text) => known.memo(text);
}

import { createHash } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import type { Progress } from '../../core/results/progress';

/** From so many on that it goes through, an answer takes long, and is kept for a while. */
const many = 10_000;
const keptFor = 30_000;

/** An answer that is being worked out, or was a moment ago. */
export interface Working<Answer> {
  answer: Promise<Answer>;
  /** How far it is now. */
  progress: Progress;
}

/** Whether it is known to take long. */
export const isLong = ({ progress }: Pick<Working<unknown>, 'progress'>): boolean => progress.of >= many;

/**
 * Works out answers, and those that take long only once: who asks the same meanwhile, or half a minute after, as by the next
 * page of a list or another order, has the same one. What is quick is worked out anew each time.
 *
 * @param run works out one, and says how far it is
 */
export function makeWorkings<Asked extends object, Answer>(
  run: (asked: Asked, onProgress: (progress: Progress) => void) => Promise<Answer>,
): (asked: Asked) => Working<Answer> {
  const known = new LRUCache<string, Working<Answer>>({ max: 20, ttl: keptFor });
  return (asked) => {
    const key = createHash('sha256').update(JSON.stringify(asked)).digest('base64');
    const before = known.get(key);
    if (before && isLong(before)) return before;
    const working: Working<Answer> = {
      progress: { done: 0, of: 0 },
      answer: run(asked, (progress) => {
        working.progress = progress;
        if (isLong(working) && progress.done < progress.of) known.set(key, working);
      }),
    };
    working.answer.then(
      () => isLong(working) && known.set(key, working),
      () => known.get(key) === working && known.delete(key),
    );
    return working;
  };
}

/** Whether an answer is there, or fails, within some time (ms). */
export async function isThereWithin(answer: Promise<unknown>, milliseconds: number): Promise<boolean> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<boolean>((resolve) => (timer = setTimeout(() => resolve(false), milliseconds)));
  const there = answer.then(
    () => true,
    () => true,
  );
  try {
    return await Promise.race([there, late]);
  } finally {
    clearTimeout(timer);
  }
}

import { expect, test } from 'vitest';
import { makeGathered } from './gathered';

test('what comes while a lot is being stored is stored together after it, and nothing twice', async () => {
  const lots: number[][] = [];
  const waiting: (() => void)[] = [];
  const store = makeGathered<number>(async (items) => {
    lots.push(items);
    await new Promise<void>((resolve) => waiting.push(resolve));
  });
  const first = store(1);
  await expect.poll(() => lots).toEqual([[1]]);
  const later = [store(2), store(3)];
  waiting.shift()!();
  await first;
  await expect.poll(() => lots).toEqual([[1], [2, 3]]);
  waiting.shift()!();
  await Promise.all(later);
});

test('a lot that cannot be stored is said to each of it, and the next is stored', async () => {
  const stored: number[] = [];
  const store = makeGathered<number>(async (items) => {
    if (items.includes(1)) throw new Error('The database is away.');
    stored.push(...items);
  });
  const answers = await Promise.allSettled([store(1), store(2)]);
  expect(answers.map(({ status }) => status)).toEqual(['rejected', 'rejected']);
  await store(3);
  expect(stored).toEqual([3]);
});

import { expect, it } from 'vitest';
import type { Progress } from '../../core/results/progress';
import { isThereWithin, makeWorkings } from './workings';

/** Work whose ends a test decides, and how often it was begun. */
function makeWork() {
  const begun: { tell: (progress: Progress) => void; end: (answer: string) => void; fail: (error: Error) => void }[] =
    [];
  const work = makeWorkings(
    (_: { of: string }, tell) =>
      new Promise<string>((end, fail) => {
        begun.push({ tell, end, fail });
      }),
  );
  return { work, begun };
}

it('works out once what takes long, for whoever asks meanwhile and a while after', async () => {
  const { work, begun } = makeWork();
  const first = work({ of: 'a year' });
  begun[0]!.tell({ done: 0, of: 50_000 });
  begun[0]!.tell({ done: 20_000, of: 50_000 });
  const second = work({ of: 'a year' });
  expect(second.progress).toEqual({ done: 20_000, of: 50_000 });
  expect(work({ of: 'a week' })).not.toBe(second);
  begun[0]!.end('many');
  expect(await Promise.all([first.answer, second.answer])).toEqual(['many', 'many']);
  expect(await work({ of: 'a year' }).answer).toBe('many');
  expect(begun).toHaveLength(2);
});

it('works out anew what is quick, and what failed', async () => {
  const { work, begun } = makeWork();
  const quick = work({ of: 'a day' });
  begun[0]!.tell({ done: 0, of: 12 });
  begun[0]!.end('few');
  await quick.answer;
  work({ of: 'a day' });
  const long = work({ of: 'a year' });
  begun[2]!.tell({ done: 0, of: 50_000 });
  begun[2]!.fail(new Error('out of memory'));
  await expect(long.answer).rejects.toThrow('out of memory');
  work({ of: 'a year' });
  expect(begun).toHaveLength(4);
});

it('says whether an answer, or its failure, is there in time', async () => {
  expect(await isThereWithin(Promise.resolve(1), 10_000)).toBe(true);
  expect(await isThereWithin(Promise.reject(new Error('no')), 10_000)).toBe(true);
  expect(await isThereWithin(new Promise(() => {}), 1)).toBe(false);
});

import { DatabaseError } from 'sequelize';
import { describe, expect, it } from 'vitest';
import { nowMs } from '../clock';
import type { WorkItem } from '../db';
import { ServiceAway } from '../platforms/call';
import { putBack, readTogether } from './handlers';

const item = { subject: 's', attempts: 0 } as WorkItem;

/** In how many seconds a piece is tried again. */
function waitOf(error: Error, attempts = 0): number {
  const before = nowMs();
  return (putBack({ ...item, attempts }, error).retryAt.getTime() - before) / 1000;
}

describe('work that could not be done', () => {
  it('is tried again within seconds where the database was too busy for it', () => {
    const busy = new DatabaseError(Object.assign(new Error('Lock wait timeout exceeded'), { sql: '' }));
    expect(waitOf(busy)).toBeGreaterThanOrEqual(2);
    expect(waitOf(busy)).toBeLessThan(4);
    expect(waitOf(busy, 5)).toBeGreaterThanOrEqual(64);
  });

  it('is tried again after a minute where something outside failed, or when that asks for it', () => {
    expect(waitOf(new Error('the answer did not name this row'))).toBeGreaterThanOrEqual(60);
    expect(waitOf(new ServiceAway('500', null, 'away'))).toBeGreaterThanOrEqual(60);
    const asked = waitOf(new ServiceAway('429', 7000, 'too many calls'));
    expect(asked).toBeGreaterThanOrEqual(7);
    expect(asked).toBeLessThan(9);
  });
});

describe('work that is read together', () => {
  const items = ['a', 'b', 'c', 'd'].map((subject) => ({ ...item, businessId: 'B', subject })) as WorkItem[];
  const still = async (left: WorkItem[]) => left;
  const became = (results: Awaited<ReturnType<ReturnType<typeof readTogether>>>) =>
    Object.fromEntries(
      results.map((one) => [one.item.subject, 'again' in one ? 'done' : 'failed' in one ? one.failed : one.gaveUp]),
    );

  it('is stored together; what throws for one puts that one back, and the others are done', async () => {
    const stored: string[][] = [];
    const run = readTogether(async () => {
      const done: string[] = [];
      return {
        async work(subject) {
          if (subject === 'b') throw new Error('the record is odd');
          done.push(subject);
          return null;
        },
        store: async () => void stored.push(done),
      };
    });
    expect(became(await run(items, { still }))).toEqual({ a: 'done', b: 'the record is odd', c: 'done', d: 'done' });
    expect(stored).toEqual([['a', 'c', 'd']]);
  });

  it('of which one cannot be read is done one by one, so that it holds up no other', async () => {
    const run = readTogether(async (_businessId, subjects) => {
      if (subjects.includes('c')) throw new Error('it names a release that is not there');
      return { work: async () => null, store: async () => undefined };
    });
    const all = became(await run(items, { still }));
    expect(all).toEqual({ a: 'done', b: 'done', c: 'it names a release that is not there', d: 'done' });
  });

  it('whose end cannot be stored is put back, all of it', async () => {
    const run = readTogether(async () => ({
      work: async () => null,
      store: () => Promise.reject(new Error('the database is away')),
    }));
    expect(new Set(Object.values(became(await run(items, { still }))))).toEqual(new Set(['the database is away']));
  });
});

import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Hit } from '../core/capture';
import { rules } from '../core/capture/rules.fixture';
import { makeOutbox as makeWith } from './outbox';
import { takeTools } from './tools';

const key = 'avx_outbox_larkmoor';
const setup = { business: 'larkmoor', release: 1, edge: 'http://edge.example', rules };
const makeOutbox = (one: typeof setup) => makeWith(takeTools(one));
/** Hits of any kind wait alike; what stands in one is not looked at. */
const hit = (id: string, filler = ''): Hit => ({ id, address: filler }) as unknown as Hit;

let stored: Map<string, string>;
let sent: string[][];
let answer: () => Promise<{ ok: boolean; status?: number }>;
const idsOf = (body: string) => (JSON.parse(body) as { hits: { id: string }[] }).hits.map(({ id }) => id);
const waiting = () => (JSON.parse(stored.get(key) ?? '[]') as { id: string }[]).map(({ id }) => id);
/** Lets every answer that is there be taken. */
const settle = async () => {
  for (let turn = 0; turn < 20; turn++) await Promise.resolve();
};

beforeEach(() => {
  stored = new Map();
  sent = [];
  answer = () => Promise.resolve({ ok: true });
  vi.stubGlobal('localStorage', {
    getItem: (name: string) => stored.get(name) ?? null,
    setItem: (name: string, value: string) => stored.set(name, value),
    removeItem: (name: string) => stored.delete(name),
  });
  for (const name of ['addEventListener', 'removeEventListener']) vi.stubGlobal(name, () => undefined);
  vi.stubGlobal('setTimeout', (work: () => void) => work());
  vi.stubGlobal('fetch', (_url: string, { body }: { body: string }) => {
    sent.push(idsOf(body));
    return answer();
  });
});
afterEach(() => vi.unstubAllGlobals());

describe('a hit', () => {
  it('is sent at once, and leaves when it was taken', async () => {
    makeOutbox(setup).put(hit('a'));
    expect(waiting()).toEqual(['a']);
    await settle();
    expect([sent, waiting()]).toEqual([[['a']], []]);
  });

  it.each([
    ['the edge is away', () => Promise.reject(new Error('away'))],
    ['the edge does not take it', () => Promise.resolve({ ok: false })],
  ])('stays while %s, and goes with the next page', async (_, refusal) => {
    answer = refusal;
    makeOutbox(setup).put(hit('a'));
    await settle();
    expect(waiting()).toEqual(['a']);
    answer = () => Promise.resolve({ ok: true });
    makeOutbox(setup).put(hit('b'));
    await settle();
    expect([sent.at(-1), waiting()]).toEqual([['a', 'b'], []]);
  });

  it('that says “no” goes at once, also while others are on their way, and outlives the forgetting of what waits', async () => {
    answer = () => new Promise(() => undefined);
    const outbox = makeOutbox(setup);
    outbox.put(hit('a'));
    await settle();
    void outbox.sendNow(hit('no'));
    outbox.clear();
    expect([sent, waiting()]).toEqual([[['a'], ['no']], []]);
  });

  it('that comes while others are on their way goes after them, one body at a time', async () => {
    let take: (taken: { ok: boolean }) => void = () => undefined;
    answer = () => new Promise((resolve) => (take = resolve));
    const outbox = makeOutbox(setup);
    outbox.put(hit('a'));
    outbox.put(hit('b'));
    outbox.put(hit('c'));
    await settle();
    expect(sent).toEqual([['a']]);
    answer = () => Promise.resolve({ ok: true });
    take({ ok: true });
    await settle();
    expect([sent, waiting()]).toEqual([[['a'], ['b', 'c']], []]);
  });

  it('shares a body with as many others as fit into one, and a large one goes alone', async () => {
    stored.set(key, JSON.stringify([hit('a', 'x'.repeat(18_000)), hit('b', 'x'.repeat(18_000))]));
    makeOutbox(setup).put(hit('c'));
    await settle();
    expect(sent).toEqual([['a'], ['b', 'c']]);
    stored.set(key, JSON.stringify([hit('huge', 'x'.repeat(40_000))]));
    makeOutbox(setup).put(hit('d'));
    await settle();
    expect(sent.slice(2)).toEqual([['huge'], ['d']]);
  });

  it.each([400, 413])('that is refused for what it is (%i) is let go, alone, and the others go on', async (status) => {
    const all = ['a', 'b', 'bad', 'c', 'd'];
    const taken: string[] = [];
    answer = () => {
      const ids = sent.at(-1)!;
      if (ids.includes('bad')) return Promise.resolve({ ok: false, status });
      taken.push(...ids);
      return Promise.resolve({ ok: true, status: 204 });
    };
    stored.set(key, JSON.stringify(all.map((id) => hit(id))));
    makeOutbox(setup).put(hit('e'));
    for (let turn = 0; turn < 12; turn++) await settle();
    expect([taken, waiting()]).toEqual([['a', 'b', 'c', 'd', 'e'], []]);
    // All of them at once, then one by one up to the bad one, then the rest at once.
    expect(sent.map((ids) => ids.length)).toEqual([6, 1, 1, 1, 3]);
  });

  it('of letters that take three bytes each is counted by its bytes', async () => {
    stored.set(key, JSON.stringify([hit('a', '配'.repeat(7000)), hit('b', '配'.repeat(7000))]));
    makeOutbox(setup).put(hit('c'));
    await settle();
    expect(sent).toEqual([['a'], ['b', 'c']]);
  });

  it('is one of at most 50 in a body and of the newest 200 that wait', async () => {
    answer = () => Promise.reject(new Error('away'));
    const outbox = makeOutbox(setup);
    for (let n = 0; n < 230; n++) outbox.put(hit(`h${n}`));
    await settle();
    expect([waiting().length, waiting()[0]]).toEqual([200, 'h30']);
    sent = [];
    answer = () => Promise.resolve({ ok: true });
    outbox.put(hit('last'));
    for (let body = 0; body < 4; body++) await settle();
    expect(sent.map((body) => body.length)).toEqual([50, 50, 50, 50]);
    expect(sent.at(-1)!.at(-1)).toBe('last');
  });

  it('waits in memory where storage is blocked', async () => {
    const blocked = () => {
      throw new Error('blocked');
    };
    vi.stubGlobal('localStorage', { getItem: blocked, setItem: blocked, removeItem: blocked });
    answer = () => Promise.resolve({ ok: false });
    const outbox = makeOutbox(setup);
    outbox.put(hit('a'));
    await settle();
    answer = () => Promise.resolve({ ok: true });
    outbox.put(hit('b'));
    await settle();
    expect(sent).toEqual([['a'], ['a', 'b']]);
    expect(() => outbox.clear()).not.toThrow();
  });

  it('does not wait behind something in storage that is no list', async () => {
    for (const text of ['{"no": "list"}', 'no JSON at all']) {
      stored.set(key, text);
      sent = [];
      makeOutbox(setup).put(hit('a'));
      await settle();
      expect(sent).toEqual([['a']]);
    }
  });
});

describe('a page that goes away', () => {
  it('says what waits once more, and keeps it until an answer came', async () => {
    const beacons: string[][] = [];
    vi.stubGlobal('navigator', { sendBeacon: (_url: string, body: string) => beacons.push(idsOf(body)) > 0 });
    answer = () => Promise.reject(new Error('away'));
    const outbox = makeOutbox(setup);
    outbox.put(hit('a'));
    await settle();
    outbox.beacon();
    expect([beacons, waiting()]).toEqual([[['a']], ['a']]);
    outbox.clear();
    outbox.beacon();
    expect([beacons.length, waiting()]).toEqual([1, []]);
  });

  it('says nothing in a browser that has no way to', () => {
    vi.stubGlobal('navigator', {});
    answer = () => Promise.reject(new Error('away'));
    const outbox = makeOutbox(setup);
    outbox.put(hit('a'));
    expect(() => outbox.beacon()).not.toThrow();
  });
});

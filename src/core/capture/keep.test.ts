import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readKept, writeKept } from './cookies';
import { arrive, nothingKept } from './keep';
import { newestClick } from './lasting';
import { day, rules, start } from './rules.fixture';
import type { Kept } from './schema';

const fresh = { visitor: '11111111-1111-4111-8111-111111111111', visit: '22222222-2222-4222-8222-222222222222' };
const page = 'http://larkmoor.localhost/fleet';
const go = (kept: Kept, at: number, address = page, referrer = '') =>
  arrive(kept, { at, address, referrer, navigation: 'navigate' }, rules, fresh).kept;

describe('what a browser keeps', () => {
  it('survives a direct return: a direct visit never replaces a campaign', () => {
    const first = go(nothingKept(), start, `${page}?utm_source=letter&utm_campaign=c1`);
    const later = go(first, start + 9 * day);
    expect(later.last).toEqual(first.last);
    expect(later.first).toEqual(first.first);
  });

  it('has the oldest touch as first and the newest that is not direct as last', () => {
    let kept = go(nothingKept(), start, `${page}?utm_source=a`);
    kept = go(kept, start + day, page, 'https://w.example/');
    kept = go(kept, start + 2 * day, `${page}?utm_source=b`);
    kept = go(kept, start + 3 * day);
    expect([kept.first?.source, kept.last?.source]).toEqual(['a', 'b']);
  });

  it('replaces a touch whole: an arrival with only a source inherits no campaign', () => {
    const first = go(nothingKept(), start, `${page}?utm_source=a&utm_campaign=c1`);
    expect(go(first, start + day, `${page}?utm_source=b`).last).toMatchObject({ source: 'b', campaign: '' });
  });

  it('keeps click IDs through later touches from elsewhere, at the time of their first sight', () => {
    let kept = go(nothingKept(), start, `${page}?qsid=Q1`);
    kept = go(kept, start + day, `${page}?utm_source=letter`);
    kept = go(kept, start + 2 * day, `${page}?qsid=Q1`);
    expect(kept.clicks).toEqual([{ platform: 'quillsearch', clickId: 'Q1', at: start }]);
    expect(kept.last?.source).toBe('letter');
  });

  it('drops a click ID after its days, however often the browser came back', () => {
    let kept = go(nothingKept(), start, `${page}?tsl=T1`);
    for (let i = 1; i <= 31; i++) kept = go(kept, start + i * day);
    expect(kept.clicks).toEqual([]);
    expect(kept.last?.clickId).toBe('T1');
  });

  it('has the next touch that is still kept as first once the oldest has ended', () => {
    const fixed = { ...rules, keep: { ...rules.keep, touchAge: 'fixed' as const } };
    const on = (kept: Kept, days: number, query: string) =>
      arrive(
        kept,
        { at: start + days * day, address: page + query, referrer: '', navigation: 'navigate' },
        fixed,
        fresh,
      ).kept;
    let kept = on(nothingKept(), 0, '?utm_source=a');
    kept = on(kept, 50, '?utm_source=b');
    kept = on(kept, 92, '?utm_source=c');
    expect([kept.first?.source, kept.last?.source]).toEqual(['b', 'c']);
    // Between two arrivals too: the cookie of the first has ended, that of the last has not.
    const alive = writeKept(kept, start + 141 * day, fixed).filter(({ maxAge }) => maxAge > 0);
    const cookies = Object.fromEntries(alive.map(({ name, value }) => [name, value]));
    expect(readKept(cookies, fixed).first?.source).toBe('c');
  });

  it('keeps the newest twenty click IDs, and never without the only one of a platform', () => {
    let kept = go(nothingKept(), start, `${page}?tsl=T1`);
    for (let n = 0; n < 25; n++) kept = go(kept, start + (n + 1) * 1000, `${page}?qsid=Q${n}`);
    expect(kept.clicks).toHaveLength(20);
    expect(kept.clicks.map(({ clickId }) => clickId)).toEqual([
      'T1',
      ...Array.from({ length: 19 }, (_, n) => `Q${n + 6}`),
    ]);
  });

  it('knows a click ID that comes again after its time, as long as somebody still knows of it', () => {
    const first = go(nothingKept(), start, `${page}?tsl=T1`);
    const again = { at: start + 40 * day, address: `${page}?tsl=T1`, referrer: '', navigation: 'navigate' } as const;
    // The cookie of click IDs still held it; nothing starts, and its time does not slide.
    expect(arrive(first, again, rules, fresh)).toMatchObject({
      decision: { because: 'click_id_known' },
      kept: { clicks: [] },
    });
    const forgotten = { ...first, clicks: [] };
    expect(arrive(forgotten, again, rules, fresh).decision.because).toBe('click_id_new');
    expect(arrive(forgotten, again, rules, fresh, first.clicks).decision.because).toBe('click_id_known');
  });

  it('takes a time from a clock that was years ahead for that of the next arrival', () => {
    const ahead = go(nothingKept(), start + 1000 * day, `${page}?qsid=Q1&utm_source=a`);
    const right = go(ahead, start, `${page}?qsid=Q2&utm_source=b`);
    expect(newestClick(right.clicks)?.clickId).toBe('Q2');
    expect(right.clicks.every(({ at }) => at === start)).toBe(true);
    expect([right.first?.at, right.last?.source, right.visitor!.seenAt]).toEqual([start, 'b', start]);
    const later = go(right, start + 91 * day);
    expect(later.clicks).toEqual([]);
    expect(later.visitor!.visitAt).toBe(start + 91 * day);
  });

  it('begins a visit after thirty idle minutes and not before', () => {
    const kept = go(nothingKept(), start);
    const soon = arrive(
      kept,
      { at: start + 29 * 60_000, address: page, referrer: '', navigation: 'navigate' },
      rules,
      fresh,
    );
    const late = arrive(
      kept,
      { at: start + 30 * 60_000, address: page, referrer: '', navigation: 'navigate' },
      rules,
      fresh,
    );
    expect([soon.kept.visitor!.visitAt, late.kept.visitor!.visitAt]).toEqual([start, start + 30 * 60_000]);
  });

  it('never loses a click ID younger than its days, in any sequence of arrivals', () => {
    const step = fc.record({
      wait: fc.integer({ min: 1, max: 5 * day }),
      query: fc.constantFrom('', '?qsid=A', '?qsid=B', '?utm_source=x', '?utm_source=x&qsid=C'),
      referrer: fc.constantFrom('', 'https://w.example/', 'http://larkmoor.localhost/'),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 15 }), (steps) => {
        let kept = nothingKept();
        let at = start;
        const seen = new Map<string, number>();
        for (const { wait, query, referrer } of steps) {
          at += wait;
          kept = go(kept, at, page + query, referrer);
          const id = /qsid=(\w)/.exec(query)?.[1];
          if (id && !seen.has(id)) seen.set(id, at);
        }
        for (const [id, when] of seen)
          if (at - when < 90 * day) expect(kept.clicks.find((c) => c.clickId === id)).toMatchObject({ at: when });
      }),
    );
  });
});

describe('the newest click', () => {
  it('is the latest, of one platform where one is asked for', () => {
    const clicks = [
      { platform: 'quillsearch', clickId: 'a', at: 1 },
      { platform: 'tessaloop', clickId: 'b', at: 3 },
      { platform: 'quillsearch', clickId: 'c', at: 2 },
    ];
    expect(newestClick(clicks)?.clickId).toBe('b');
    expect(newestClick(clicks, 'quillsearch')?.clickId).toBe('c');
    expect(newestClick([])).toBeNull();
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { splitAddress, queryValue } from './address';
import { carriedIn, elsewhereOf, mergeKept, withCarried, withoutCarried, withPlain } from './elsewhere';
import { readOf } from './fill';
import { nothingKept } from './keep';
import { rules } from './rules.fixture';
import type { Elsewhere, Kept, Reading, Touch } from './schema';

const place = (host: string): Elsewhere => ({ name: host, host, kind: 'form', returns: 'hook', plain: [] });
const signed = fc.stringMatching(/^[\w-]{4,40}\.[\w-]{10}$/);
const address = fc
  .record({
    path: fc.stringMatching(/^[a-z/]{0,12}$/),
    query: fc.option(fc.stringMatching(/^[a-z]=[a-z0-9%]{0,6}(&[b-z]=[a-z]{0,3})?$/)),
    fragment: fc.option(fc.stringMatching(/^[a-z/?=]{0,8}$/)),
  })
  .map(
    ({ path, query, fragment }) =>
      `https://offers.example/${path}${query === null ? '' : `?${query}`}${fragment === null ? '' : `#${fragment}`}`,
  );

describe('an address that carries plain values', () => {
  const touch: Touch = {
    at: 0,
    source: 'larkmoor letter',
    medium: 'email',
    campaign: 'x'.repeat(200),
    content: '',
    term: '',
    utmId: '',
    referrer: '',
    landing: '',
    platform: '',
    clickId: '',
  };
  const kept: Kept = { ...nothingKept(), last: touch, clicks: [{ platform: 'quillsearch', clickId: 'Qs+1', at: 0 }] };
  const read = (reading: Reading, of: string) => readOf(reading, of, kept);
  const plain: Elsewhere['plain'] = [
    { name: 'source', reading: 'last_source', platform: '' },
    { name: 'key', reading: 'click_id', platform: 'quillsearch' },
    { name: 'note', reading: 'last_content', platform: '' },
  ];
  it.each([
    ['https://o.example/', 'https://o.example/?source=larkmoor%20letter&key=Qs%2B1'],
    ['https://o.example/?x=1#f', 'https://o.example/?x=1&source=larkmoor%20letter&key=Qs%2B1#f'],
    ['https://o.example/?source=own', 'https://o.example/?source=own&key=Qs%2B1'],
  ])('%s becomes %s: only what is named and kept, and nothing in place of what stands there', (before, after) => {
    expect(withPlain(before, { plain }, read)).toBe(after);
    expect(withPlain(after, { plain }, read)).toBe(after);
  });
  it('are short, and none where nothing is kept', () => {
    const campaign: Elsewhere['plain'] = [{ name: 'c', reading: 'last_campaign', platform: '' }];
    expect(withPlain('https://o.example/', { plain: campaign }, read)).toHaveLength(
      'https://o.example/?c='.length + 100,
    );
    expect(withPlain('https://o.example/', { plain }, () => '')).toBe('https://o.example/');
  });
});

describe('an address that carries signed values', () => {
  it('carries them whole, once, before its fragment, and is as before without them', () => {
    fc.assert(
      fc.property(address, signed, signed, (before, first, second) => {
        const carrying = withCarried(withCarried(before, first), second);
        expect(carriedIn(carrying)).toBe(second);
        expect(queryValue(splitAddress(carrying)!, 'avx_to')).toBe(second);
        expect(withoutCarried(carrying)).toBe(before);
        expect(splitAddress(carrying)!.fragment).toBe(splitAddress(before)!.fragment);
      }),
    );
  });

  it.each([
    ['https://o.example/?avx_to=a.b&x=1', 'https://o.example/?x=1'],
    ['https://o.example/?x=1&avx_to=a.b#f', 'https://o.example/?x=1#f'],
    ['https://o.example/?x=1&avx_to=a.b&y=2', 'https://o.example/?x=1&y=2'],
    ['https://o.example/?avx_total=5', 'https://o.example/?avx_total=5'],
  ])('%s without them is %s', (before, after) => expect(withoutCarried(before)).toBe(after));
});

describe('the place that an address leads to', () => {
  const elsewhere = [place('bell.example'), place('fit.bell.example')];
  it.each([
    ['https://bell.example/book', 'bell.example'],
    ['https://www.bell.example/book', 'bell.example'],
    ['https://fit.bell.example/', 'fit.bell.example'],
    ['https://notbell.example/', undefined],
    ['/relative', undefined],
  ])('%s: %s', (address, name) => expect(elsewhereOf(address, { elsewhere })?.name).toBe(name));
  it('is none where the release names none', () => expect(elsewhereOf('https://bell.example/', rules)).toBeNull());
});

describe('what is kept once values came back', () => {
  const touch = (at: number, source: string): Touch => ({
    at,
    source,
    medium: '',
    campaign: '',
    content: '',
    term: '',
    utmId: '',
    referrer: '',
    landing: '',
    platform: '',
    clickId: '',
  });
  const visitor = (id: string) => ({ id, visitId: id, visitAt: 1, seenAt: 1, noCustomer: false });
  const here: Kept = {
    ...nothingKept(),
    visitor: visitor('here'),
    first: touch(5, 'a'),
    last: touch(9, 'b'),
    values: [{ name: 'v', value: 'old', at: 2 }],
    clicks: [{ platform: 'quillsearch', clickId: 'Q1', at: 7 }],
  };
  const came: Kept = {
    ...nothingKept(),
    visitor: visitor('came'),
    first: touch(3, 'c'),
    last: touch(8, 'd'),
    values: [{ name: 'w', value: 'new', at: 4 }],
    clicks: [
      { platform: 'quillsearch', clickId: 'Q1', at: 4 },
      { platform: 'tessaloop', clickId: 'T1', at: 6 },
    ],
  };

  it('is the visitor who left, the older first and the newer last touch, and every click ID at its first sight', () => {
    expect(mergeKept(here, came)).toEqual({
      visitor: came.visitor,
      first: came.first,
      last: here.last,
      clicks: [
        { platform: 'quillsearch', clickId: 'Q1', at: 4 },
        { platform: 'tessaloop', clickId: 'T1', at: 6 },
      ],
      values: [
        { name: 'v', value: 'old', at: 2 },
        { name: 'w', value: 'new', at: 4 },
      ],
    });
  });

  it('is all that came where nothing was kept here, and all that was kept where nothing came', () => {
    expect(mergeKept(nothingKept(), came)).toEqual(came);
    expect(mergeKept(here, nothingKept())).toEqual(here);
  });

  it('does not depend on which side had what, but for the visitor', () => {
    const one = mergeKept(here, came);
    expect({ ...mergeKept(came, here), visitor: one.visitor }).toEqual(one);
  });
});

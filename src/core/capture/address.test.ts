import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decodePart, isUnder, queryValue, splitAddress } from './address';

describe('splitting an address', () => {
  it('reads the parts as they stand', () => {
    expect(splitAddress('HTTP://user@Shop.Larkmoor.localhost:4310/a%20b?x=1&y=a+b&x=2&z#top')).toEqual({
      scheme: 'http',
      host: 'shop.larkmoor.localhost',
      port: '4310',
      path: '/a%20b',
      query: [
        ['x', '1'],
        ['y', 'a b'],
        ['x', '2'],
        ['z', ''],
      ],
      fragment: 'top',
    });
  });

  it.each(['', 'mailto:a@b.example', 'javascript:alert(1)', '/fleet', 'http://', 'about:blank'])(
    'takes “%s” for no web address',
    (text) => expect(splitAddress(text)).toBeNull(),
  );

  it('keeps escapes that are no UTF-8 instead of throwing', () => expect(decodePart('%E0%A4')).toBe('%E0%A4'));

  it('reads back every query that was encoded as a form encodes it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.string({ minLength: 1, unit: 'grapheme' }), fc.string({ unit: 'grapheme' }))),
        (pairs) => {
          const wellFormed = pairs.filter(([a, b]) => a.isWellFormed() && b.isWellFormed());
          const address = `https://larkmoor.localhost/?${new URLSearchParams(wellFormed)}`;
          expect(splitAddress(address)?.query).toEqual(wellFormed);
        },
      ),
    );
  });

  it('never throws, whatever is thrown at it', () => {
    fc.assert(fc.property(fc.string(), (text) => void splitAddress(text)));
  });

  it('gives the first of repeated values and an empty one where there is none', () => {
    const address = splitAddress('http://a.example/?x=1&x=2')!;
    expect([queryValue(address, 'x'), queryValue(address, 'y')]).toEqual(['1', '']);
  });
});

describe('a host under another', () => {
  it.each([
    ['larkmoor.localhost', true],
    ['shop.larkmoor.localhost', true],
    ['notlarkmoor.localhost', false],
    ['localhost', false],
  ])('%s: %s', (host, under) => expect(isUnder(host, 'larkmoor.localhost')).toBe(under));
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { linkContracts } from '../platforms/links';
import { cut, decodePart, isPlaceholder, isUnder, queryValue, splitAddress, splitReferrer } from './address';

describe('splitting an address', () => {
  it('reads the parts as they stand', () => {
    expect(splitAddress('HTTP://user@Shop.Larkmoor.localhost:4310/a%20b?x=1&y=a+b&x=2&z#top')).toEqual({
      scheme: 'http',
      host: 'shop.larkmoor.localhost',
      port: '4310',
      path: '/a%20b',
      query: [
        ['x', '1', '1'],
        ['y', 'a b', 'a+b'],
        ['x', '2', '2'],
        ['z', '', ''],
      ],
      fragment: 'top',
    });
  });

  it.each(['', 'mailto:a@b.example', 'javascript:alert(1)', '/fleet', 'http://', 'about:blank'])(
    'takes “%s” for no web address',
    (text) => expect(splitAddress(text)).toBeNull(),
  );

  it.each([
    ['%E0%A4', '%E0%A4'],
    ['anna%40b.example%', 'anna@b.example%'],
    ['J%F6rg%20joerg%40b.example', 'J%F6rg joerg@b.example'],
    ['%F6%40%C0%80%ED%A0%80%41', '%F6@%C0%80%ED%A0%80A'],
    ['%F0%9F%9A%B2+%zz%2', '🚲 %zz%2'],
  ])('decodes %s, where escapes that are no UTF-8 stay beside those that are', (text, read) =>
    expect(decodePart(text)).toBe(read),
  );

  it('decodes every character, and never throws on escapes of any bytes', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        expect(decodePart(encodeURIComponent(text))).toBe(text);
      }),
    );
    const byte = fc.integer({ min: 0, max: 255 }).map((n) => `%${n.toString(16).padStart(2, '0')}`);
    fc.assert(
      fc.property(fc.array(byte), (bytes) => void decodePart(bytes.join(''))),
      { numRuns: 2000 },
    );
  });

  it('reads back every query that was encoded as a form encodes it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.string({ minLength: 1, unit: 'grapheme' }), fc.string({ unit: 'grapheme' }))),
        (pairs) => {
          const wellFormed = pairs.filter(([a, b]) => a.isWellFormed() && b.isWellFormed());
          const address = `https://larkmoor.localhost/?${new URLSearchParams(wellFormed)}`;
          expect(splitAddress(address)?.query.map(([name, value]) => [name, value])).toEqual(wellFormed);
        },
      ),
    );
  });

  it('never throws, whatever is thrown at it', () => {
    fc.assert(fc.property(fc.string(), (text) => void splitAddress(text)));
  });

  it.each([
    ['x=1&x=2', '1'],
    ['x=&x=A1', 'A1'],
    ['x={x}&x=A1', 'A1'],
    ['x=(visit.key)&x=&x=~ad-name~&x=A1', 'A1'],
    ['x=&x=(visit.key)', '(visit.key)'],
    ['y=1', ''],
  ])('of %s takes the first value of x that is neither empty nor a placeholder', (query, value) =>
    expect(queryValue(splitAddress(`http://a.example/?${query}`)!, 'x')).toBe(value),
  );

  it('knows every placeholder of a platform by its shape', () => {
    const written = linkContracts.flatMap(({ placeholders }) => placeholders.map(({ text }) => text));
    expect(written.length).toBeGreaterThan(5);
    expect([...written, '{x}', '${x}', '[x]', '<x>', '%x%'].filter((text) => !isPlaceholder(text))).toEqual([]);
    expect(['QsAb12', 'cargo (uk)', '~', '50%', '-_x_-'].filter(isPlaceholder)).toEqual([]);
  });

  it('holds no half of a character', () => {
    expect(splitAddress('http://a.example/?x=\ud83da')?.query[0]?.[1]).toBe('\ufffda');
  });
});

describe('an address of an application', () => {
  it('is a referrer, and no web address', () => {
    expect(splitReferrer('android-app://example.bakers.reader/x')).toMatchObject({
      scheme: 'android-app',
      host: 'example.bakers.reader',
      path: '/x',
    });
    expect(splitAddress('android-app://example.bakers.reader/')).toBeNull();
    expect(['', 'about:client', '/x'].map(splitReferrer)).toEqual([null, null, null]);
  });
});

describe('a text that is cut', () => {
  it('is cut at whole characters', () => {
    expect([cut('ab🚲c', 2), cut('ab🚲c', 3), cut('ab🚲c', 4), cut('ab🚲c', 9)]).toEqual(['ab', 'ab', 'ab🚲', 'ab🚲c']);
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), fc.nat(40), (text, most) => {
        const shorter = cut(text, most);
        expect(shorter.length <= most && text.startsWith(shorter) && shorter.isWellFormed()).toBe(true);
        expect(shorter.length).toBeGreaterThanOrEqual(Math.min(text.length, most) - 1);
      }),
    );
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

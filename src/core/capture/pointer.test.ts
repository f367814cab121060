import { describe, expect, it } from 'vitest';
import { pointerName, readPointer } from './pointer';

describe('a JSON Pointer', () => {
  // The document and the pointers of RFC 6901, section 5.
  const document = {
    foo: ['bar', 'baz'],
    '': 0,
    'a/b': 1,
    'c%d': 2,
    'e^f': 3,
    'g|h': 4,
    'i\\j': 5,
    'k"l': 6,
    ' ': 7,
    'm~n': 8,
  };
  it.each([
    ['', document],
    ['/foo', ['bar', 'baz']],
    ['/foo/0', 'bar'],
    ['/', 0],
    ['/a~1b', 1],
    ['/c%d', 2],
    ['/e^f', 3],
    ['/g|h', 4],
    ['/i\\j', 5],
    ['/k"l', 6],
    ['/ ', 7],
    ['/m~0n', 8],
  ])('%j', (pointer, value) => expect(readPointer(document, pointer)).toEqual(value));

  it('leads nowhere where there is nothing, and never to what every object has', () => {
    for (const pointer of ['/bar', '/foo/2', '/foo/0/x', '/constructor', '/__proto__/x', '/foo/length/x'])
      expect(readPointer(document, pointer)).toBeUndefined();
    expect(readPointer(null, '/x')).toBeUndefined();
  });

  it('is called by its last part', () => {
    expect(['/order/number', '/a~1b', ''].map(pointerName)).toEqual(['number', 'a/b', '']);
  });
});

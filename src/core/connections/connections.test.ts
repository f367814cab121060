import { describe, expect, it } from 'vitest';
import { setupSteps } from '../strands';
import { brokenWords, countsAsWorking, isBroken } from './broken';
import { headerNameSchema, pathSchema, pointerSchema } from './parts-schema';

describe('a connection', () => {
  it.each<[string, string, boolean, boolean]>([
    ['200', 'GET', false, true],
    ['204', 'POST', false, true],
    ['422', 'POST', false, true],
    ['429', 'GET', false, true],
    // A record that is gone is answered as a wrong address is.
    ['404', 'GET', true, true],
    ['404', 'GET', false, false],
    ['404', 'POST', true, false],
    ['401', 'GET', true, false],
    ['500', 'GET', true, false],
    ['no answer', 'GET', true, false],
    ['no JSON', 'GET', true, false],
  ])('that answers %s to a %s works (it has before: %s): %s', (status, method, before, works) =>
    expect(countsAsWorking(status, method, before)).toBe(works),
  );

  it('is broken at once where its key or address is refused, and after a while where it is away', () => {
    const since = (status: string, minutes: number) => isBroken({ status, brokenAt: 0 }, minutes * 60_000);
    expect([since('401', 0), since('404', 0), since('not sent', 0)]).toEqual([true, true, true]);
    expect([since('503', 2), since('503', 11), since('no answer', 11)]).toEqual([false, true, true]);
    expect(isBroken({ status: '401', brokenAt: null }, 0)).toBe(false);
  });

  it.each(['401', '404', 'not sent', '503', '301', 'no answer', 'no JSON'])(
    'broken by %s says what to do',
    (status) => {
      const { was, fix } = brokenWords(status, 'Harbour');
      expect(was).toContain('Harbour');
      expect(fix).toMatch(/\.$/);
    },
  );
});

it('steps of setting up are done by what was seen', () => {
  const seen = { hit: true, record: false, platform: true, outcome: false };
  expect(setupSteps(seen).map(({ isDone }) => isDone)).toEqual([true, false, true, false]);
});

describe('parts of a description', () => {
  it.each(['', '/a', '/a~1b/0', '/'])('%j is a place', (text) =>
    expect(pointerSchema.safeParse(text).success).toBe(true),
  );
  it.each(['a', '/a~2', '/~'])('%j is none', (text) => expect(pointerSchema.safeParse(text).success).toBe(false));
  it.each(['Host', 'content-length', 'a b', ''])('%j is no header that can be set', (name) =>
    expect(headerNameSchema.safeParse(name).success).toBe(false),
  );
  it('a path begins with a slash', () => {
    expect(['', '/v1?x=1', 'v1', '/a b'].map((path) => pathSchema.safeParse(path).success)).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });
});

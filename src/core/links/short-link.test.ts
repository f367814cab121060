import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareQuery, judgePage, snippetsOn, type PageStep } from './page-check';
import { firstPlan } from '../plan';
import { checkDestination, openShortLink } from './open';
import { freePath, proposePath } from './short-link';

describe('an opened short link', () => {
  const to = 'https://l.example/f?a=1&utm_source=letter#top';
  it.each([
    ['', 'link', to],
    ['a=2&b=%2f', 'link', 'https://l.example/f?a=1&utm_source=letter&b=%2f#top'],
    ['a=2&b=3', 'visitor', 'https://l.example/f?utm_source=letter&a=2&b=3#top'],
    ['a=2', 'neither', to],
  ] as const)('opened with “%s”, %s wins: %s', (query, wins, reached) =>
    expect(openShortLink(to, query, wins)).toBe(reached),
  );
  it('never leads to another host, whatever it is opened with', () => {
    fc.assert(
      fc.property(fc.string(), fc.constantFrom('link', 'visitor', 'neither'), (query, wins) => {
        const { host, pathname } = new URL(openShortLink(to, query, wins));
        expect([host, pathname]).toEqual(['l.example', '/f']);
      }),
    );
  });
});

it.each([
  ['https://larkmoor.example/fleet', undefined],
  ['https://t.larkmoor.example/go/spring', 'it is a short link itself'],
  ['javascript:alert(1)', 'it begins with javascript:'],
])('a short link to %s: %s', (destination, was) =>
  expect(checkDestination(destination, ['t.larkmoor.example'])?.was).toBe(was),
);

describe('a page check', () => {
  const link = 'https://l.example/f?utm_source=letter&qsid=1';
  const page = '<html><head><script async src="https://t.l.example/b/larkmoor.js"></script></head></html>';
  const step = (url: string, status = 200, to = ''): PageStep => ({ url, status, to });
  const codes = (steps: PageStep[], html = page, rest = {}) =>
    judgePage(steps, html, 'larkmoor', rest).faults.map(({ code }) => code);

  it('is content with a page that answers, keeps the query and carries the snippet once', () => {
    expect(codes([step(link)])).toEqual([]);
    expect(codes([step(link, 301, `${link}&x=1`), step(`${link}&x=1`)])).toEqual([]);
  });
  it('names the step that lost or changed a value', () => {
    const moved = 'https://l.example/g?utm_source=Letter';
    const short = 'https://t.l.example/go/f';
    expect(
      codes([step(short, 302, link), step(link, 302, 'https://l.example/g'), step('https://l.example/g')]),
    ).toEqual(['query_lost']);
    expect(judgePage([step(link, 302, moved), step(moved)], page, 'larkmoor').faults).toEqual([
      { code: 'query_lost', names: ['qsid'], at: link },
      { code: 'query_changed', names: ['utm_source'], at: link },
    ]);
  });
  it('names what else is wrong', () => {
    expect(codes([step(link, 404)])).toEqual(['dead']);
    expect(codes([step(link, 302, link)])).toEqual(['too_many_steps']);
    expect(codes([], '', { why: 'it took too long' })).toEqual(['no_answer']);
    expect(codes([step(link)], '<p>')).toEqual(['no_snippet']);
    expect(codes([step(link)], page + page)).toEqual(['snippet_twice']);
    expect(codes([step(link)], page.replace('larkmoor', 'other'))).toEqual(['no_snippet', 'other_business']);
  });
  it('does not count a line that stands in a comment', () => {
    expect(snippetsOn(`<!-- ${page} -->${page}`, 'larkmoor')).toMatchObject({ own: 1, others: [] });
  });
  it('finds every value that is gone', () => {
    expect(compareQuery('https://l.example/?a=1&b=+', 'https://l.example/?b=%20')).toEqual({
      lost: ['a'],
      changed: [],
    });
  });
});

it.each([
  ['https://l.example/f?utm_campaign=Spring%20sale&utm_content=top', 'spring-sale-top'],
  ['https://l.example/f?c=Spring', 'spring'],
  ['https://l.example/care/Welcome!', 'welcome'],
  ['https://l.example/', 'link'],
  [`https://l.example/?utm_campaign=${'x'.repeat(80)}`, 'x'.repeat(50)],
])('the short link of %s has the path %s', (link, path) =>
  expect(proposePath(link, { naming: firstPlan().naming, names: { utm_campaign: ['c', 'utm_campaign'] } })).toBe(path),
);

it('a path that is taken gets the first number that is free', () => {
  expect(freePath('spring', new Set())).toBe('spring');
  expect(freePath('spring', new Set(['spring', 'spring-2', 'spring-4']))).toBe('spring-3');
});

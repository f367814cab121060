import { describe, expect, it } from 'vitest';
import { policiesOf, stoppedBy } from './content-policy';

const page = new URL('https://larkmoor.example/fleet');
const script = new URL('https://t.larkmoor.example/b/larkmoor.js');
const stops = (...policies: string[]) => stoppedBy(policies, script, page);

describe('a page’s content policy', () => {
  it.each<[string, ReturnType<typeof stops>]>([
    ["default-src 'self'", 'script-src'],
    ["script-src 'none'", 'script-src'],
    ["script-src 'self' https://cdn.example", 'script-src'],
    ["script-src 'self' t.larkmoor.example; connect-src 'self'", 'connect-src'],
    ["script-src 'self' *.larkmoor.example; default-src 'self'", 'connect-src'],
    ["default-src 'self'; script-src-elem https://t.larkmoor.example; connect-src https:", null],
    ['script-src https:; connect-src *', null],
    ["script-src 'self' t.larkmoor.example:8443", 'script-src'],
    ['script-src t.larkmoor.example:*', null],
    ['script-src http://t.larkmoor.example', null],
    ['script-src t.larkmoor.example/b/', null],
    ['script-src t.larkmoor.example/other/', 'script-src'],
    ['script-src larkmoor.example', 'script-src'],
    ['SCRIPT-SRC *.LARKMOOR.EXAMPLE', null],
    ["script-src 'nonce-abc'", null],
    ["script-src 'strict-dynamic' 'sha256-abc'", null],
    ["script-src 'nonce-abc'; connect-src 'self'", 'connect-src'],
    ["img-src 'self'; frame-ancestors 'none'", null],
    ['', null],
  ])('%s', (policy, stopped) => expect(stops(policy)).toBe(stopped));

  it('holds where it is the page’s own origin, and the strictest of several decides', () => {
    const own = new URL('https://larkmoor.example/b/larkmoor.js');
    expect(stoppedBy(["default-src 'self'"], own, page)).toBeNull();
    expect(stops('script-src https:', "connect-src 'self'")).toBe('connect-src');
  });

  it('is read from the header and from meta elements', () => {
    const html = `<head><meta charset="utf-8"><META content="script-src 'self'" http-equiv="Content-Security-Policy">
      <meta http-equiv=content-security-policy content='img-src *'></head>`;
    expect(policiesOf("default-src 'self', connect-src *", html)).toEqual([
      ...["default-src 'self'", 'connect-src *', "script-src 'self'", 'img-src *'],
    ]);
    expect(policiesOf('', '<p>')).toEqual([]);
  });
});

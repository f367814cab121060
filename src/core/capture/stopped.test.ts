import { describe, expect, it } from 'vitest';
import { cleanAddress } from './pii';
import { rules } from './rules.fixture';
import { stoppedPages } from './stopped';

const hosts = ['avrix-edge.localhost', 't.larkmoor.localhost'];
const read = (report: unknown) => stoppedPages(report, hosts, (address) => cleanAddress(address, rules).address);
const blocked = 'http://t.larkmoor.localhost:4300/take/larkmoor';
const one = (body: object) => [
  {
    type: 'csp-violation',
    body: { documentURL: 'http://larkmoor.localhost:4310/fleet?x=1', disposition: 'enforce', ...body },
  },
];

describe('what browsers report of a page’s content policy', () => {
  it('names the page, the directive and what that would have to name', () => {
    expect(read(one({ effectiveDirective: 'connect-src', blockedURL: blocked }))).toEqual([
      { page: 'larkmoor.localhost/fleet', directive: 'connect-src', wanted: 'http://t.larkmoor.localhost:4300' },
    ]);
    expect(read(one({ effectiveDirective: 'script-src-elem', blockedURL: blocked }))).toMatchObject([
      { directive: 'script-src' },
    ]);
    expect(read(one({ effectiveDirective: 'require-trusted-types-for', blockedURL: 'trusted-types-sink' }))).toEqual([
      { page: 'larkmoor.localhost/fleet', directive: 'trusted-types', wanted: 'avrix' },
    ]);
  });

  it('is read in its older form too', () => {
    const report = {
      'csp-report': {
        'document-uri': 'https://larkmoor.example/fleet',
        'violated-directive': "script-src 'self'",
        'blocked-uri': 'https://avrix-edge.localhost/b/larkmoor.js',
      },
    };
    expect(read(report)).toEqual([
      { page: 'larkmoor.example/fleet', directive: 'script-src', wanted: 'https://avrix-edge.localhost' },
    ]);
  });

  it.each([
    [
      'a policy that only watches',
      one({ effectiveDirective: 'connect-src', blockedURL: blocked, disposition: 'report' }),
    ],
    ['something of the page’s own', one({ effectiveDirective: 'connect-src', blockedURL: 'https://other.example/x' })],
    ['a picture', one({ effectiveDirective: 'img-src', blockedURL: blocked })],
    ['no page', one({ documentURL: 'about:blank', effectiveDirective: 'connect-src', blockedURL: blocked })],
    ['nothing that is known', { hello: [1] }],
    ['a text', 'hello'],
  ])('says nothing where it is of %s', (_, report) => {
    expect(read(report)).toEqual([]);
  });

  it('keeps no personal data of the page’s address', () => {
    const documentURL = 'http://larkmoor.localhost/hello/anna@bakery.example';
    const [stopped] = read(one({ documentURL, effectiveDirective: 'connect-src', blockedURL: blocked }));
    expect(stopped!.page).toBe('larkmoor.localhost/hello/removed');
  });
});

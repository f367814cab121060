import type { IncomingMessage } from 'node:http';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clientAddress } from './client-address';

const proxies = ['127.0.0.1', '10.0.0.0/8', '2001:db8::/32'];
const from = (remoteAddress: string, headers: Record<string, string> = {}, trusted = proxies) =>
  clientAddress({ headers, socket: { remoteAddress } } as unknown as IncomingMessage, trusted);
const xff = (text: string) => ({ 'x-forwarded-for': text });

describe('the address of a visitor', () => {
  it.each<[string, string, Record<string, string>, string]>([
    ['without a proxy', '203.0.113.9', {}, '203.0.113.9'],
    ['behind a proxy of one’s own', '127.0.0.1', xff('203.0.113.9'), '203.0.113.9'],
    ['behind two of them', '127.0.0.1', xff('203.0.113.9, 10.1.2.3'), '203.0.113.9'],
    ['who says they are another', '127.0.0.1', xff('198.51.100.1, 203.0.113.9'), '203.0.113.9'],
    ['who is no proxy of ours and says they are another', '203.0.113.9', xff('198.51.100.1'), '203.0.113.9'],
    ['where the proxy is written as IPv6', '::ffff:10.0.0.7', xff('::ffff:203.0.113.9'), '203.0.113.9'],
    ['over IPv6', '2001:db8::1', xff('2a00::5'), '2a00::5'],
    ['where a proxy names nobody', '127.0.0.1', xff('unknown'), '127.0.0.1'],
    ['where every step is a proxy', '127.0.0.1', xff('10.1.1.1, 10.2.2.2'), '10.1.1.1'],
    ['by Forwarded', '127.0.0.1', { forwarded: 'for=203.0.113.9;proto=https' }, '203.0.113.9'],
    ['by Forwarded with ports', '127.0.0.1', { forwarded: 'For="[2a00::5]:4711", for=10.0.0.1:80' }, '2a00::5'],
    ['by Forwarded without a for', '127.0.0.1', { forwarded: 'proto=https' }, '127.0.0.1'],
    [
      'by both, of which one may be the visitor’s own',
      '127.0.0.1',
      { ...xff('203.0.113.9'), forwarded: 'for=198.51.100.1' },
      '127.0.0.1',
    ],
  ])('%s', (_, remote, headers, address) => expect(from(remote, headers)).toBe(address));

  it('is never what somebody says who is no proxy of one’s own', () => {
    fc.assert(
      fc.property(fc.ipV4(), fc.string(), (remote, text) => {
        expect(from(remote, xff(text), [])).toBe(remote);
        expect(from(remote, { forwarded: text }, [])).toBe(remote);
      }),
    );
  });

  it('is read from any header without an error', () => {
    fc.assert(
      fc.property(fc.string(), (text) => void [from('127.0.0.1', xff(text)), from('127.0.0.1', { forwarded: text })]),
    );
  });
});

import { describe, expect, it } from 'vitest';
import { browserEngineOf } from './browser';
import { isOfNetworks } from './networks';

describe('an IP address', () => {
  const networks = ['203.0.113.0/24', '198.51.100.7', '2001:db8::/32'];
  it.each([
    ['203.0.113.200', true],
    ['203.0.114.1', false],
    ['198.51.100.7', true],
    ['198.51.100.8', false],
    ['::ffff:203.0.113.9', true],
    ['2001:db8:1::5', true],
    ['2001:db9::5', false],
    ['', false],
  ])('%s is of the networks: %s', (address, is) => expect(isOfNetworks(address, networks)).toBe(is));
  it('is of none where none is listed', () => expect(isOfNetworks('203.0.113.9', [])).toBe(false));
});

describe('the engine of a browser', () => {
  it.each([
    ['Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0 Safari/537.36', 'Blink'],
    ['Mozilla/5.0 (Macintosh) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/20.1 Safari/605.1.15', 'WebKit'],
    ['Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0', 'Gecko'],
    ['', ''],
  ])('of %s is %s', (agent, engine) => expect(browserEngineOf(agent)).toBe(engine));
});

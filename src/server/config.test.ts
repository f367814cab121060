import { describe, expect, it } from 'vitest';
import { readConfig } from './config';

const right = {
  AVRIX_DATA: '.data',
  AVRIX_DATABASE_URL: 'mariadb://a:b@127.0.0.1:3306/avrix',
  AVRIX_SECRET_KEY: 'a'.repeat(64),
};

describe('the environment', () => {
  it('has its usual values', () => {
    expect(readConfig(right)).toMatchObject({
      port: 4300,
      origin: 'http://avrix.localhost:4300',
      edgeOrigin: 'http://avrix-edge.localhost:4300',
      testSwitch: null,
    });
  });

  it('takes an empty variable for one that is not set', () => {
    expect(readConfig({ ...right, AVRIX_PORT: '', AVRIX_TEST_SWITCH: '' }).port).toBe(4300);
  });

  it('names the proxies that are believed, and none where none is named', () => {
    expect(readConfig(right).trustedProxies).toEqual([]);
    const proxies = (AVRIX_TRUSTED_PROXIES: string) => readConfig({ ...right, AVRIX_TRUSTED_PROXIES }).trustedProxies;
    expect(proxies('127.0.0.1,10.0.0.0/8,2001:db8::/32')).toEqual(['127.0.0.1', '10.0.0.0/8', '2001:db8::/32']);
    expect(() => proxies('10.0.0.0/8, nginx')).toThrow(/AVRIX_TRUSTED_PROXIES.*: must be addresses or networks/);
  });

  it('is refused with a line for each variable that is wrong', () => {
    const wrong = { ...right, AVRIX_DEMO: 'huge', AVRIX_PORT: '99999', AVRIX_SECRET_KEY: 'short' };
    expect(() => readConfig(wrong)).toThrow(
      /AVRIX_PORT: .*\nAVRIX_SECRET_KEY: must be 64 .*\nAVRIX_DEMO: must be small, demo, clean, large or none/s,
    );
    expect(() => readConfig({ ...right, AVRIX_DATABASE_URL: 'postgres://x' })).toThrow(
      /AVRIX_DATABASE_URL: must begin with mariadb:/,
    );
  });
});

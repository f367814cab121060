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

  it('is refused with a line for each variable that is wrong', () => {
    const wrong = { ...right, AVRIX_DEMO: 'large', AVRIX_PORT: '99999', AVRIX_SECRET_KEY: 'short' };
    expect(() => readConfig(wrong)).toThrow(
      /AVRIX_PORT: .*\nAVRIX_SECRET_KEY: must be 64 .*\nAVRIX_DEMO: must be small, demo, clean or none/s,
    );
    expect(() => readConfig({ ...right, AVRIX_DATABASE_URL: 'postgres://x' })).toThrow(
      /AVRIX_DATABASE_URL: must begin with mariadb:/,
    );
  });
});

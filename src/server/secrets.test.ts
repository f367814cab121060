import { randomBytes } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { hashMail, sameText, seal, unseal } from './secrets';

const key = randomBytes(32);

describe('secrets at rest', () => {
  it('are read back with the key, and never twice the same bytes', () => {
    const sealed = seal(key, { token: 'päss' });
    expect(unseal(key, sealed)).toEqual({ token: 'päss' });
    expect(seal(key, { token: 'päss' }).equals(sealed)).toBe(false);
    expect(sealed.includes('päss')).toBe(false);
  });

  it('are refused with another key or a changed byte', () => {
    const sealed = seal(key, 'x');
    expect(() => unseal(randomBytes(32), sealed)).toThrow();
    sealed[20]! ^= 1;
    expect(() => unseal(key, sealed)).toThrow();
  });
});

describe('a mail address', () => {
  it('is hashed alike whatever its case and spaces, and not without the key', () => {
    expect(hashMail(key, ' Anna@Oriel.example ')).toBe(hashMail(key, 'anna@oriel.example'));
    expect(hashMail(randomBytes(32), 'anna@oriel.example')).not.toBe(hashMail(key, 'anna@oriel.example'));
  });
});

it('compares texts of any length', () => {
  expect([sameText('a', 'a'), sameText('a', 'b'), sameText('a', 'ab'), sameText('', '')]).toEqual([
    true,
    false,
    false,
    true,
  ]);
});

import { randomBytes } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { hashMail, hashTelephone, sameText, seal, unseal } from './secrets';

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

describe('a telephone number', () => {
  it('is hashed alike with a country or a 0 in front, however it is written', () => {
    const hash = hashTelephone(key, '01632 960123');
    for (const written of ['+44 1632 960123', '0044 (0)1632-960123', '(01632) 960.123', '01632/960123'])
      expect(hashTelephone(key, written), written).toBe(hash);
    expect(hashTelephone(key, '01632 960124')).not.toBe(hash);
  });

  it('is nothing where the text is none', () => {
    for (const text of ['', 'Oriel', '12345', 'D-1632960', '2027-02']) expect(hashTelephone(key, text), text).toBe('');
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

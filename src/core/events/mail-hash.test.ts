import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { freshEvent } from './words';
import { hashMail, readHashed } from './mail-hash';
import { hashedReadings } from './page-wires';
import type { ReadingRule, WireRule } from './schema';

const reading: ReadingRule = {
  id: 'mail',
  words: 'Email',
  from: 'field',
  name: 'mail',
  attribute: '',
  as: 'mail_hash',
  unit: '',
  swap: '',
};
const wire = (change: Partial<WireRule> = {}): WireRule => ({
  event: freshEvent().name,
  account: 'tessaloop',
  kind: 'tessaloop',
  named: [],
  by: 'server',
  purpose: 'advertising',
  how: 'told',
  from: '',
  fields: [{ name: 'mail_hash', reading: 'mail' }],
  ...change,
});
const agreed = { measurement: 'yes', advertising: 'yes' } as const;

describe('an email address', () => {
  it('is hashed as it is in lower case and without spaces around it', () => {
    const sha256 = (text: string) => createHash('sha256').update(text).digest('hex');
    fc.assert(
      fc.property(fc.emailAddress(), (mail) => {
        expect(hashMail(`  ${mail.toUpperCase()}\n`)).toBe(sha256(mail.toUpperCase().toLowerCase()));
      }),
    );
    expect(hashMail('bäcker@müller.example')).toBe(sha256('bäcker@müller.example'));
  });

  it.each(['', '020 7946 0018', 'Anna', 'anna@', '@bakery.example', 'anna at bakery.example'])(
    'is not what %j is, and nothing is hashed',
    (text) => expect(hashMail(text)).toBe(''),
  );
});

describe('a reading that is only told hashed', () => {
  const hashed = hashedReadings({ readings: [reading], wires: [wire()] }, []);
  const read = (consent: Parameters<typeof readHashed>[3], required = true) =>
    readHashed(hashed, 'mail', 'anna@bakery.example', consent, required);

  it('is read where somebody agreed to what it is for, and nowhere else', () => {
    expect(read(agreed)).toBe(hashMail('anna@bakery.example'));
    expect(read({ measurement: 'yes', advertising: 'no' })).toBe('');
    expect(read(null)).toBe('');
    expect(read(null, false)).toBe(hashMail('anna@bakery.example'));
    expect(read({ measurement: 'yes', advertising: 'no' }, false)).toBe('');
  });

  it('that is told for two purposes is read of nobody who agreed to one of them only', () => {
    const two = hashedReadings({ readings: [reading], wires: [wire(), wire({ purpose: 'measurement' })] }, []);
    const readOf = (consent: Parameters<typeof readHashed>[3]) =>
      readHashed(two, 'mail', 'anna@bakery.example', consent, true);
    expect(readOf({ measurement: 'yes', advertising: 'no' })).toBe('');
    expect(readOf(agreed)).toBe(hashMail('anna@bakery.example'));
  });

  it.each<[string, WireRule[]]>([
    ['no destination is told it', []],
    ['its destination takes none', [wire({ kind: 'meterhall', account: 'meterhall' })]],
    ['it goes into another field', [wire({ fields: [{ name: 'worth', reading: 'mail' }] })]],
  ])('is not read at all where %s', (_what, wires) => {
    expect(hashedReadings({ readings: [reading], wires }, [])).toEqual([]);
    expect(hashedReadings({ readings: [{ ...reading, as: 'text' }], wires: [wire()] }, [])).toEqual([]);
  });
});

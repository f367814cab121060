import { createHash } from 'node:crypto';
import { expect, it } from 'vitest';
import { hashTelephone } from './hash-telephone';

const known = createHash('sha256').update('+441632960123').digest('hex');

it('hashes one number the same, however it is written with its country', () => {
  for (const text of ['+441632960123', '+44 1632 960123', '+44 (0)1632 960-123', '00441632960123', ' +44.1632/960123 '])
    expect(hashTelephone(text), text).toBe(known);
});

it('hashes nothing of a number without its country, or of what is none', () => {
  for (const text of [
    '01632 960123',
    '',
    '+',
    '+0441632960123',
    '+44 1632 960123 ext 4',
    'ask Mary',
    '+1234567890123456',
  ])
    expect(hashTelephone(text), text).toBe('');
});

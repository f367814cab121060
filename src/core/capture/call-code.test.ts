import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { callCode, visitorEnd } from './call-code';

describe('the reference code of a visitor', () => {
  it('leads back to the end of the visitor’s ID, however it is written down', () => {
    fc.assert(
      fc.property(fc.uuid(), (visitor) => {
        const code = callCode(visitor);
        expect(code).toMatch(/^[0-9A-HJKMNP-TV-Z]{3}-[0-9A-HJKMNP-TV-Z]{4}$/);
        for (const heard of [
          code,
          code.toLowerCase(),
          code.replace('-', ' '),
          code.replace('0', 'O').replace('1', 'l'),
        ])
          expect(visitorEnd(heard)).toBe(visitor.slice(-8));
      }),
    );
  });

  it('is noticed where one letter was misheard, in at least six of seven', () => {
    const code = callCode('01a35e16-9c48-7835-ba7c-ef97d26e7f21');
    const letters = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';
    const wrong = [...code].flatMap((is, place) =>
      is === '-'
        ? []
        : [...letters].filter((one) => one !== is).map((one) => code.slice(0, place) + one + code.slice(place + 1)),
    );
    const taken = wrong.filter((one) => visitorEnd(one) !== null);
    expect(taken.length / wrong.length).toBeLessThan(1 / 6);
  });

  it.each(['', 'K7M', 'K7M-2QXA1', 'K7M-2Q!1', '020 7946 0018', 'U00-0000'])('is not “%s”', (text) => {
    expect(visitorEnd(text)).toBeNull();
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkTagRule } from './check-rule';
import { checkValue } from './check';
import { readName } from './names';
import { fitsPattern, patternProblem } from './pattern';
import { tagRule } from './first-plan';

describe('a pattern', () => {
  it('fits as the browser’s own expressions do, as far as both know it', () => {
    const atom = fc.constantFrom('a', 'b', '-', '\\d', '[a-z]', '.', '(?:a|b)', '\\p{L}', '[^a]');
    const repeated = fc.tuple(atom, fc.constantFrom('', '*', '+', '?', '{2}', '{1,3}')).map((both) => both.join(''));
    const pattern = fc.array(repeated, { minLength: 1, maxLength: 5 }).map((parts) => parts.join(''));
    const text = fc.string({ unit: fc.constantFrom('a', 'b', '-', '7', 'é', '🚲'), maxLength: 8 });
    fc.assert(
      fc.property(pattern, text, (source, value) => {
        expect(fitsPattern(source, value)).toBe(new RegExp(`^(?:${source})$`, 'u').test(value));
      }),
      { numRuns: 1000 },
    );
  });

  // Each of these ran for ever, or for minutes, in an expression that goes back and tries again.
  it.each(['(a|a)*b', '(a+)+b', 'a*a*a*a*a*b', '(a|aa)+$', '([a-z]+)*-', '(.*)*x'])(
    '%s is answered at once, whatever a visitor sends',
    (pattern) => {
      expect(patternProblem(pattern)).toBe('');
      expect(fitsPattern(pattern, 'a'.repeat(5000) + '!')).toBe(false);
      expect(
        checkValue(
          { naming: { pattern: '', parts: [] }, aliases: [] },
          tagRule('t', 'T', { pattern }),
          `${'a'.repeat(199)}!`,
        ).problems,
      ).toContain('pattern');
    },
  );

  it.each(['(?=a)b', '(a)\\1', '(?<=a)b', '((a{100}){100}){100}', '(', 'a**'])(
    '%s is refused, and named',
    (pattern) => {
      expect(patternProblem(pattern)).toMatch(/^it is no pattern: ./);
      expect(checkTagRule(tagRule('year', 'Year', { pattern }))).toMatchObject([{ field: 'pattern' }]);
      // A release that holds one all the same judges nothing by it.
      expect(fitsPattern(pattern, 'anything')).toBe(true);
    },
  );

  it('of a name’s parts is read at once, also where it could be read in a thousand ways', () => {
    const parts = Array.from(
      { length: 8 },
      (_, n) => ({ key: `p${n}`, label: `P${n}`, kind: 'words', values: [], digits: 1 }) as const,
    );
    const naming = {
      pattern: parts.map(({ key }) => `{${key}}`).join('-'),
      parts: parts.map((part) => ({ ...part, values: [] })),
    };
    expect(readName(naming, `${'a-'.repeat(99)}!`)).toBeNull();
    expect(Object.values(readName(naming, 'a-b-c-d-e-f-g-h')!)).toEqual([...'abcdefgh']);
  });
});

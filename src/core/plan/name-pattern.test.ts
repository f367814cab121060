import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addPart, callPart, dropPart, joinPattern, keyFor, movePart, splitPattern } from './name-pattern';
import type { Naming } from './schema';

const pattern = '{market}-{yy}q{n}-{line}';
const part = (key: string, label = key) => ({ key, label, kind: 'word' as const, values: [], digits: 1 });

describe('a naming pattern', () => {
  it('taken apart and put together again is the same', () => {
    const text = fc.stringMatching(/^[a-z0-9-]{0,5}$/);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.stringMatching(/^[a-z]{1,4}$/), text), { maxLength: 5 }),
        text,
        (pairs, first) => {
          const written = first + pairs.map(([key, behind]) => `{${key}}${behind}`).join('');
          expect(joinPattern(splitPattern(written))).toBe(written);
        },
      ),
    );
  });
  it('gets a part at its end, loses one, has one moved', () => {
    const split = splitPattern(pattern);
    expect(joinPattern(addPart(split, 'initiative'))).toBe(`${pattern}-{initiative}`);
    expect(joinPattern(addPart(splitPattern(''), 'market'))).toBe('{market}');
    expect(joinPattern(dropPart(split, 2))).toBe('{market}-{yy}-{line}');
    expect(joinPattern(dropPart(split, 0))).toBe('{yy}q{n}-{line}');
    expect(joinPattern(movePart(split, 1))).toBe('{yy}-{market}q{n}-{line}');
  });
});

it.each([
  ['Market', [], 'market'],
  ['Zielgruppe für 2027', ['market'], 'zielgruppefur202'],
  ['Market', ['market'], 'market2'],
  ['2027', [], 'part'],
  ['', ['part'], 'part2'],
])('a part called %s gets the key of its own beside %j: %s', (label, taken, key) =>
  expect(keyFor(label, taken)).toBe(key),
);

it('a part that is stored keeps its key whatever it is called; a new one gets one to go with its name', () => {
  const stored: Naming = { pattern: '{market}', parts: [part('market', 'Market')] };
  const naming: Naming = { pattern: '{market}-{part}', parts: [...stored.parts, part('part', '')] };
  expect(callPart(naming, 0, 'Country', stored)).toMatchObject({ pattern: '{market}-{part}' });
  expect(callPart(naming, 1, 'Audience', stored)).toMatchObject({
    pattern: '{market}-{audience}',
    parts: [{ key: 'market' }, { key: 'audience', label: 'Audience' }],
  });
});

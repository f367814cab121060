import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { buildName, checkNaming, readName } from './names';
import type { NamePart, Naming } from './schema';

const part = (key: string, kind: NamePart['kind'], values: string[] = [], digits = 1): NamePart => ({
  key,
  label: key,
  kind,
  digits,
  values: values.map((value) => ({ value, label: '' })),
});
const naming: Naming = {
  pattern: '{market}-{yy}q{n}-{line}-{initiative}',
  parts: [
    part('market', 'listed', ['uk', 'ie', 'nl']),
    part('yy', 'digits', [], 2),
    part('n', 'digits'),
    part('line', 'listed', ['fleet', 'shop', 'care', 'brand']),
    part('initiative', 'words'),
  ],
};
const winter = { market: 'uk', yy: '27', n: '1', line: 'fleet', initiative: 'winter-proof' };

describe('a campaign name', () => {
  it('is put together from its parts and read back into them', () => {
    expect(buildName(naming, winter)).toEqual({ name: 'uk-27q1-fleet-winter-proof' });
    expect(readName(naming, 'uk-27q1-fleet-winter-proof')).toEqual(winter);
  });
  it('that does not fit is not read', () => {
    for (const name of [
      '',
      'uk-27q1-fleet',
      'fr-27q1-fleet-x',
      'uk-2027q1-fleet-x',
      'uk-27q1-fleet-x ',
      'UK-27q1-fleet-x',
    ])
      expect(readName(naming, name)).toBeNull();
  });
  it('with parts that do not fit is not built; each is named with what would be right', () => {
    expect(buildName(naming, { ...winter, market: 'fr', initiative: 'Winter!' })).toEqual({
      problems: [
        { field: 'market', was: '“fr” does not fit', fix: 'It must be one of uk, ie, nl.' },
        {
          field: 'initiative',
          was: '“Winter!” does not fit',
          fix: 'It must be words of lower case letters and digits with a hyphen between them.',
        },
      ],
    });
  });
});

const letters = fc.string({ unit: fc.constantFrom(...'ab1'), minLength: 1, maxLength: 3 });
const wordsText = fc.array(letters, { minLength: 1, maxLength: 3 }).map((all) => all.join('-'));
const partOf = (key: string): fc.Arbitrary<NamePart> =>
  fc.oneof(
    fc
      .uniqueArray(fc.oneof(letters, wordsText), { minLength: 1, maxLength: 3 })
      .map((values) => part(key, 'listed', values)),
    fc.integer({ min: 1, max: 2 }).map((digits) => part(key, 'digits', [], digits)),
    fc.constantFrom('word' as const, 'words' as const).map((kind) => part(key, kind)),
  );
const valueOf = ({ kind, values, digits }: NamePart): fc.Arbitrary<string> => {
  if (kind === 'listed') return fc.constantFrom(...values.map(({ value }) => value));
  if (kind === 'digits') return fc.string({ unit: fc.constantFrom(...'12'), minLength: digits, maxLength: digits });
  return kind === 'word' ? letters : wordsText;
};
const namings: fc.Arbitrary<Naming> = fc
  .tuple(fc.integer({ min: 1, max: 4 }), fc.array(fc.constantFrom('', '-', 'a', '--'), { minLength: 5, maxLength: 5 }))
  .chain(([count, texts]) => {
    const keys = ['p', 'q', 'r', 's'].slice(0, count);
    const pattern = keys.map((key, index) => `${texts[index]}{${key}}`).join('') + texts[4];
    return fc.tuple(...keys.map(partOf)).map((parts) => ({ pattern, parts }));
  });

it('in any pattern that is taken, reading what was built gives the parts', () => {
  let taken = 0;
  fc.assert(
    fc.property(
      namings.chain((one) =>
        fc.tuple(fc.constant(one), fc.record(Object.fromEntries(one.parts.map((p) => [p.key, valueOf(p)])))),
      ),
      ([one, values]) => {
        fc.pre(checkNaming(one).length === 0);
        taken += 1;
        const built = buildName(one, values);
        expect('name' in built && readName(one, built.name)).toEqual(values);
      },
    ),
    { numRuns: 300 },
  );
  expect(taken).toBeGreaterThan(50);
});

describe('a pattern', () => {
  const line = part('line', 'words');
  const free = part('initiative', 'words');
  it('whose names could be read in two ways is refused with an example', () => {
    const [problem] = checkNaming({ pattern: '{line}-{initiative}', parts: [line, free] });
    expect(problem).toMatchObject({ field: 'naming.pattern' });
    expect(problem!.was).toMatch(/^“(.+)” could be read as line .+, initiative .+ or as line .+, initiative .+$/);
    const example = /^“(.+?)”/.exec(problem!.was)![1]!;
    expect(example.split('-')).toHaveLength(3);
  });
  it('with listed values that hold each other’s text is refused only where that makes two readings', () => {
    const listed = (key: string, ...values: string[]) => part(key, 'listed', values);
    const glued = (...parts: NamePart[]): Naming => ({ pattern: parts.map((p) => `{${p.key}}`).join(''), parts });
    expect(checkNaming(glued(listed('p', 'a', 'ab'), listed('q', 'bc', 'c')))[0]!.was).toBe(
      '“abc” could be read as p ab, q c or as p a, q bc',
    );
    expect(checkNaming(glued(listed('p', 'a', 'ab'), listed('q', 'xc', 'c')))).toEqual([]);
  });
  it('of one word beside words is taken', () => {
    expect(checkNaming({ pattern: '{line}-{initiative}', parts: [part('line', 'word'), free] })).toEqual([]);
    expect(checkNaming(naming)).toEqual([]);
  });
  it.each([
    ['{market}-{place}', '{place} is no part'],
    ['{market}-{market}', '{market} is there twice'],
    ['{market', 'a brace is left open'],
    ['uk-fleet', 'it has no part'],
  ])('%s is refused: %s', (pattern, was) => {
    expect(checkNaming({ pattern, parts: naming.parts })[0]).toMatchObject({ field: 'naming.pattern', was });
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { splitAddress } from './address';
import { arrive, nothingKept } from './keep';
import { dropOld } from './lasting';
import { expectedValue, keepValues } from './kept-values';
import { day, rules as fixture, start, valueRule } from './rules.fixture';
import type { KeptValue, ValueRule } from './schema';

const rulesWith = (...values: ValueRule[]) => ({ ...fixture, keep: { ...fixture.keep, values } });
const page = (query: string) => splitAddress(`https://larkmoor.localhost/${query}`);

describe('a query value of the business’s own', () => {
  it.each<[string, string, Partial<ValueRule>, string]>([
    ['as it is', 'BW-1', {}, 'BW-1'],
    ['in lower case', 'BW-1', { lowerCase: true }, 'bw-1'],
    ['of digits', '0042', { characters: 'digits' }, '0042'],
    ['with a letter where digits are expected', '42a', { characters: 'digits' }, ''],
    ['with letters of any script', 'Zoë 2', { characters: 'words' }, 'Zoë 2'],
    ['with a sign that words do not have', 'a<b', { characters: 'words' }, ''],
    ['with a control character', 'a\u0000b', {}, ''],
    ['longer than expected', 'abcd', { longest: 3 }, ''],
  ])('%s', (_, value, rule, kept) => {
    expect(expectedValue(value, valueRule({ name: 'p', ...rule }))).toBe(kept);
  });

  it('is kept the first or the last time it comes, by its rule', () => {
    const rules = rulesWith(valueRule({ name: 'a', which: 'first' }), valueRule({ name: 'b', which: 'last' }));
    const once = keepValues([], page('?a=1&b=1'), 10, rules);
    expect(once).toEqual([
      { name: 'a', value: '1', at: 10 },
      { name: 'b', value: '1', at: 10 },
    ]);
    expect(keepValues(once, page('?a=2&b=2'), 20, rules)).toEqual([
      { name: 'a', value: '1', at: 10 },
      { name: 'b', value: '2', at: 20 },
    ]);
    expect(keepValues(once, page('?a=1&b=1'), 20, rules), 'the same again keeps when it came').toEqual(once);
    expect(keepValues(once, null, 20, rules)).toEqual(once);
  });

  it('that no rule knows any more is dropped', () => {
    expect(keepValues([{ name: 'gone', value: 'x', at: 1 }], page(''), 2, rulesWith())).toEqual([]);
  });

  it('lasts as long as its rule says, from when it came or from the last page', () => {
    const values: KeptValue[] = [
      { name: 'fixed', value: '1', at: start },
      { name: 'renewed', value: '1', at: start },
    ];
    const rules = rulesWith(
      valueRule({ name: 'fixed', age: 'fixed', days: 10 }),
      valueRule({ name: 'renewed', age: 'renewed', days: 10 }),
    );
    const visitor = { id: 'v', visitId: 'w', visitAt: start, seenAt: start + 9 * day, noCustomer: false };
    const left = (now: number) =>
      dropOld({ ...nothingKept(), visitor, values }, now, rules).values.map(({ name }) => name);
    expect(left(start + 10 * day - 1)).toEqual(['fixed', 'renewed']);
    expect(left(start + 10 * day)).toEqual(['renewed']);
    expect(left(start + 19 * day)).toEqual([]);
  });

  it('is kept by an arrival whatever starts a touch, for any sequence of values', () => {
    const rules = rulesWith(valueRule({ name: 'p', which: 'last', characters: 'words' }));
    fc.assert(
      fc.property(fc.array(fc.stringMatching(/^[a-z0-9<]{0,5}$/), { minLength: 1, maxLength: 8 }), (sent) => {
        let kept = nothingKept();
        sent.forEach((value, n) => {
          const address = `https://larkmoor.localhost/?p=${value}`;
          const arrival = { at: start + n, address, referrer: '', navigation: 'navigate' } as const;
          kept = arrive(kept, arrival, rules, { visitor: 'v', visit: 'w' }).kept;
        });
        const last = sent.filter((value) => /^[a-z0-9]+$/.test(value)).at(-1);
        expect(kept.values.map(({ value }) => value)).toEqual(last === undefined ? [] : [last]);
      }),
    );
  });
});

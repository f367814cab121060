import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fillRule, rules, valueRule } from './rules.fixture';
import { fillColumns, fillToRow, rowToFill, rowToValue, rowsFromCells, valueColumns, valueToRow } from './rule-rows';
import { fillRuleSchema, readingSchema, valueRuleSchema } from './schema';

const word = fc.stringMatching(/^[a-z][a-z0-9_]{0,8}$/);

describe('rules as rows of a grid', () => {
  it('are read back as they were', () => {
    fc.assert(
      fc.property(
        fc.record({
          ...{ id: word, field: word, forms: fc.array(word, { maxLength: 3 }), otherwise: word },
          pages: fc.array(
            word.map((page) => `/${page}`),
            { maxLength: 2 },
          ),
          reading: fc.constantFrom(...readingSchema.options),
          find: fc.constantFrom('name', 'id', 'label', 'selector'),
          when: fc.constantFrom('always', 'empty'),
        }),
        (given) => {
          const rule = fillRule(given as never);
          expect(rowToFill(fillToRow(rule), rule.id)).toEqual(rule);
          expect(fillRuleSchema.parse(rowToFill(fillToRow(rule), rule.id))).toEqual(rule);
        },
      ),
    );
    const value = valueRule({ name: 'lark_partner', which: 'first', lowerCase: true, longest: 12 });
    expect(rowToValue(valueToRow(value))).toEqual(value);
  });

  it('that are empty get what is usual, and their schema says what is missing', () => {
    expect(rowToValue({ name: 'lark-p' })).toMatchObject({ cookie: 'avx_lark_p', days: 90, which: 'last' });
    expect(valueRuleSchema.safeParse(rowToValue({ name: 'p', days: 'many' })).success).toBe(false);
    expect(fillRuleSchema.safeParse(rowToFill({}, 'rule 1')).success).toBe(false);
  });

  it('come from cells of a spreadsheet, in the columns’ order', () => {
    expect(rowsFromCells(fillColumns(rules), [['source', 'its name', 'a, b', '/fleet', 'the source']])).toEqual([
      { field: 'source', find: 'name', forms: 'a, b', pages: '/fleet', reading: 'last_source' },
    ]);
  });

  it('come from cells with a heading where it says, options by value or by words', () => {
    const cells = [
      ['Days', 'name', 'Counted'],
      ['30', 'p', 'From when it came'],
      ['60', 'q', 'renewed'],
      ['90', 'r', 'now and then'],
    ];
    expect(rowsFromCells(valueColumns, cells)).toEqual([
      { days: '30', name: 'p', age: 'fixed' },
      { days: '60', name: 'q', age: 'renewed' },
      { days: '90', name: 'r', age: '' },
    ]);
  });
});

import { placeCells } from '../grid/cells';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fillRule, rules, valueRule } from '../capture/rules.fixture';
import { fillRuleSchema, readingSchema, valueRuleSchema } from '../capture/schema';
import { ruleArbitrary } from '../events/events.fixture';
import { eventRuleSchema, type EventRule, type WireRule } from '../events/schema';
import { freshEvent } from '../events/words';
import { event } from './event';
import { fill } from './fill';
import { keptValue } from './kept-value';
import { columnsOf, rowOf, ruleOf } from './rows';
import { wire } from './wire';

const word = fc.stringMatching(/^[a-z][a-z0-9_]{0,8}$/);
const beside = { capture: rules };
const startFill = () => fill.start!(beside, []);
const startValue = () => keptValue.start!(beside, []);

describe('rules as rows of a grid', () => {
  it('are read back as they were', () => {
    fc.assert(
      fc.property(
        fc.record({
          id: word,
          field: word,
          forms: fc.array(word, { maxLength: 3 }),
          otherwise: word,
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
          const read = ruleOf(fill.says, rowOf(fill.says, rule), { ...startFill(), id: rule.id }, beside);
          expect(read).toEqual(rule);
          expect(fillRuleSchema.parse(read)).toEqual(rule);
        },
      ),
    );
    const value = valueRule({ name: 'lark_partner', which: 'first', lowerCase: true, longest: 12 });
    expect(ruleOf(keptValue.says, rowOf(keptValue.says, value), startValue(), beside)).toEqual(value);
  });

  it('that are empty get what is usual, and their schema says what is missing', () => {
    const value = (row: Record<string, string>) => ruleOf(keptValue.says, row, startValue(), beside);
    expect(value({ name: 'lark-p' })).toMatchObject({ cookie: 'avx_lark_p', days: 90, which: 'last' });
    expect(valueRuleSchema.safeParse(value({ name: 'p', days: 'many' })).success).toBe(false);
    expect(fillRuleSchema.safeParse(ruleOf(fill.says, {}, startFill(), beside)).success).toBe(false);
  });

  it('come from cells of a spreadsheet, in the columns’ order', () => {
    const cells = [['its name', 'source', 'a, b', '/fleet', 'the source']];
    expect(placeCells(columnsOf(fill.says, beside), cells)).toEqual([
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
    expect(placeCells(columnsOf(keptValue.says, beside), cells)).toEqual([
      { days: '30', name: 'p', age: 'fixed' },
      { days: '60', name: 'q', age: 'renewed' },
      { days: '90', name: 'r', age: '' },
    ]);
  });

  it('offer what there is beside them to pick from', () => {
    const swaps = [{ name: 'placements', rows: [], otherwise: { gives: '', take: 'itself' as const } }];
    const columns = columnsOf(fill.says, { capture: { ...rules, swaps } });
    expect(columns.find(({ key }) => key === 'swap')!.options).toEqual([
      ['', '–'],
      ['placements', 'placements'],
    ]);
    expect(columns.find(({ key }) => key === 'platform')!.options!.map(([value]) => value)).toEqual([
      '',
      ...rules.keep.clickIds.map(({ platform }) => platform),
    ]);
  });
});

describe('events as rows', () => {
  const hasPlainTexts = ({ cues, conditions }: EventRule) =>
    [...cues, ...conditions].every(({ text }) => !text.includes(';') && text === text.trim());
  it('are read back as they were, each cue and condition in its cell', () => {
    fc.assert(
      fc.property(ruleArbitrary.filter(hasPlainTexts), (rule) => {
        const row = rowOf(event.says, rule);
        const read = ruleOf(event.says, row, freshEvent(), beside);
        const known = ({ kind, part, test, text, amount }: EventRule['cues'][number]) =>
          kind === 'arrives'
            ? [kind, part, test, text]
            : [kind, kind === 'reads_down' || kind === 'stays' ? amount : kind === 'orders' ? '' : text];
        expect(read.cues.map(known)).toEqual(rule.cues.map(known));
        const held = ({ reading, test, not, text }: EventRule['conditions'][number]) => [reading, test, not, text];
        expect(read.conditions.map(held)).toEqual(rule.conditions.map(held));
        expect([read.name, read.reads, read.onceFor]).toEqual([rule.name, rule.reads, rule.onceFor]);
      }),
    );
  });

  it('say what is wrong with a cell that cannot be read', () => {
    const read = ruleOf(event.says, { name: 'x', cues: 'dances wildly' }, freshEvent(), beside);
    const problems = eventRuleSchema.safeParse(read).error?.issues.map(({ path }) => path.join('.'));
    expect(problems).toContain('cues.0.kind');
  });

  it('and what is told of them, with readings in its name', () => {
    const rule: WireRule = {
      event: 'enquiry_sent',
      account: 'meterhall',
      kind: 'meterhall',
      by: 'server',
      purpose: 'measurement',
      how: 'told',
      from: '',
      named: [
        { text: 'fleet/', reading: '' },
        { text: '', reading: 'bike' },
      ],
      fields: [{ name: 'campaign', reading: 'last_campaign' }],
    };
    const accounts = [{ key: 'meterhall', kind: 'meterhall', name: 'Meterhall', does: 'destination' as const }];
    expect(rowOf(wire.says, rule)).toMatchObject({ named: 'fleet/‹bike›', fields: 'campaign=last_campaign' });
    expect(ruleOf(wire.says, rowOf(wire.says, rule), wire.start!({}, []), { accounts })).toEqual(rule);
  });
});

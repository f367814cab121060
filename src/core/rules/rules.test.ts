import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rules } from '../capture/rules.fixture';
import { firstPlan, tagRule } from '../plan/first-plan';
import type { ReleaseContent } from '../releases/schema';
import { ruleSchemas } from '../releases/draft-schema';
import {
  aliasId,
  applyChanges,
  isRuleKind,
  readRule,
  ruleDetails,
  ruleKind,
  ruleKinds,
  ruleSentence,
  type RuleChange,
  type RuleKindName,
} from './index';
import { qualifyingWays } from './qualified';
import { values } from './values.fixture';

const content: ReleaseContent = {
  capture: { ...rules, carry: [] },
  plan: firstPlan(),
  crmWrites: [],
  crm: {
    account: 'crm',
    leadTokenField: 'avx_lead',
    fields: {},
    stages: { inOrder: ['Asked'], ended: [] },
  },
  noCustomer: { networks: [], mailDomains: [], hosts: [] },
  events: { readings: [], events: [], wires: [], presses: true },
  platforms: [],
  crms: [],
  outcomes: [],
  telling: [],
  ladders: [],
  goals: [],
  qualified: { form: 'FLT-QUAL' },
};

describe.each(Object.keys(ruleKinds) as RuleKindName[])('a rule of the kind %s', (kind) => {
  const { idOf, read, write, isOne: single } = ruleKind(kind).at;

  it('put into a release is read back from it, and everything else stays', () => {
    fc.assert(
      fc.property(values[kind], (value) => {
        expect(ruleSchemas[kind].parse(value)).toEqual(value);
        const id = idOf(value);
        const after = write(content, id, value);
        expect(readRule(after, { kind, id })).toEqual(value);
        for (const other of Object.keys(ruleKinds) as RuleKindName[])
          if (other !== kind) expect(ruleKind(other).at.read(after)).toEqual(ruleKind(other).at.read(content));
      }),
    );
  });

  it('put there twice stands there once; taken out, the release is as before', () => {
    fc.assert(
      fc.property(values[kind], (value) => {
        const id = idOf(value);
        const once = write(content, id, value);
        expect(write(once, id, value)).toEqual(once);
        if (!single && readRule(content, { kind, id }) === null) expect(write(once, id, null)).toEqual(content);
      }),
    );
  });

  it.skipIf(single)('changed keeps its place in the list', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(values[kind], {
          selector: idOf,
          minLength: 1,
          maxLength: kind === 'qualified' ? qualifyingWays.length : 5,
        }),
        fc.nat(),
        (all, pick) => {
          const filled = all.reduce<ReleaseContent>((before, value) => write(before, idOf(value), value), content);
          const chosen = all[pick % all.length];
          const order = read(filled).map(([id]) => id);
          expect(
            read(write(filled, idOf(chosen), chosen))
              .map(([id]) => id)
              .sort(),
          ).toEqual([...order].sort());
          if (kind !== 'carry') expect(read(write(filled, idOf(chosen), chosen)).map(([id]) => id)).toEqual(order);
        },
      ),
    );
  });

  it('is a sentence', () => {
    fc.assert(
      fc.property(values[kind], (value) => {
        const sentence = ruleSentence(kind, value)!;
        expect(sentence).toMatch(/^[A-Z`].*\.$/s);
        expect(sentence.split('`').length % 2, 'every value stands between two marks').toBe(1);
      }),
    );
    expect(ruleSentence(kind, null)).toBeNull();
  });
});

describe('changes of a draft', () => {
  const change = (tag: string, longest: number): RuleChange => ({
    kind: 'tag',
    id: tag,
    value: tagRule(tag, tag.toUpperCase(), { longest }),
  });

  it('of different rules give the same content in any order, but for the order of new ones', () => {
    const changes = [change('utm_source', 9), change('utm_term', 8), { ...change('utm_id', 1), value: null }];
    const forward = applyChanges(content, changes);
    expect(applyChanges(content, changes.toReversed())).toEqual(forward);
    expect(forward.plan.tags.map(({ tag, longest }) => [tag, longest])).toEqual([
      ...[
        ['utm_source', 9],
        ['utm_medium', 100],
        ['utm_campaign', 100],
        ['utm_content', 100],
        ['utm_term', 8],
      ],
    ]);
  });

  it('leave the live content as it was', () => {
    const before = structuredClone(content);
    applyChanges(content, [change('utm_source', 3), change('market', 2)]);
    expect(content).toEqual(before);
  });
});

it('what differs besides the sentence is said of a tag', () => {
  const before = tagRule('utm_medium', 'Medium', { values: [{ value: 'a', label: 'A' }], example: 'a' });
  const after = {
    ...before,
    values: [
      { value: 'a', label: 'An A' },
      { value: 'b', label: '' },
    ],
    example: 'b',
    note: 'short',
  };
  expect(ruleDetails('tag', before, after)).toEqual([
    ...['Takes in `b`.', '`a` is read as “An A”.', 'Its note is “short”.'],
  ]);
  expect(ruleDetails('tag', after, before)).toContain('Takes out `b`.');
  expect(ruleDetails('tag', null, after)).toEqual([]);
  expect(ruleDetails('referrer', { host: 'a.example' }, { host: 'a.example' })).toEqual([]);
});

it('kinds are known by their names only', () => {
  expect(['tag', 'alias', 'toString', 'nothing'].map(isRuleKind)).toEqual([true, true, false, false]);
  expect(aliasId({ tag: 'utm_medium', value: 'a=b' })).toBe('utm_medium=a=b');
});

describe('a carry name', () => {
  const check = (name: string) => ruleKind('carry').check!({ platform: 'quillsearch', name }, content);
  it('that nothing else has is taken', () => expect(check('lark_ref')).toEqual([]));
  it.each(['utm_source', rules.keep.clickIds[0]!.parameter])('%s stands for something already', (name) => {
    expect(check(name)).toMatchObject([{ field: 'name' }]);
  });
});

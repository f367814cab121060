import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CrmWriteRule } from './schema';
import type { TouchValues } from './touch-words';
import { planWrites, type FieldState, type WrittenFacts } from './write-back';

const touch = (source: string): TouchValues => ({
  source,
  medium: '',
  campaign: '',
  content: '',
  term: '',
  utmId: '',
  referrer: '',
  landing: '',
  clickId: '',
});
const rule = (given: Partial<CrmWriteRule> = {}): CrmWriteRule => ({
  id: 'w',
  part: 'source',
  reading: '',
  touch: 'enquiry',
  swap: '',
  fields: ['field'],
  when: 'empty',
  ...given,
});
const state = (given: Partial<FieldState> = {}): FieldState => ({
  is: '',
  length: null,
  written: null,
  sent: '',
  ...given,
});
const valueOf = ({ part }: CrmWriteRule, touch: TouchValues | null) =>
  part === 'link' ? 'https://avrix.example/7' : (touch?.source ?? '');
const facts: WrittenFacts = { enquiry: touch('b'), all: [touch('a'), touch('b')] };
const plan = (rules: CrmWriteRule[], fields: Record<string, FieldState>, of = facts) =>
  planWrites(rules, of, valueOf, (field) => fields[field] ?? state());

describe('a field', () => {
  it.each([
    ['empty', state(), 'b'],
    ['empty', state({ is: 'typed' }), 'not empty'],
    ['empty', state({ is: 'b' }), 'same'],
    ['own', state({ is: 'typed' }), 'typed there'],
    ['own', state({ is: 'older', written: { value: 'older', found: 'older' } }), 'b'],
    ['own', state({ is: 'OLDER', written: { value: 'older', found: 'OLDER' } }), 'b'],
    ['own', state({ is: 'typed', written: { value: 'older', found: 'older' } }), 'typed there'],
    ['own', state({ is: 'by form', sent: 'by form' }), 'b'],
    ['own', state({ is: 'by f', sent: 'by form', length: 4 }), 'b'],
    ['always', state({ is: 'typed' }), 'b'],
    ['always', state({ is: 'B!', written: { value: 'b', found: 'B!' } }), 'same'],
  ] as const)('%s, %j: %s', (when, field, comes) => {
    const { writes, left } = plan([rule({ when })], { field });
    expect(writes[0]?.becomes ?? left[0]!.because).toBe(comes);
  });

  it('that is too short says what it would hold, and holds it already once it does', () => {
    const long = { enquiry: touch('a long value'), all: [] };
    expect(plan([rule()], { field: state({ length: 6 }) }, long).writes).toEqual([
      { rule: 'w', field: 'field', was: '', becomes: 'a long value', cut: 'a long' },
    ]);
    expect(plan([rule({ when: 'always' })], { field: state({ is: 'a long', length: 6 }) }, long).writes).toEqual([]);
  });

  it('is written by the first of two rules, and by none where there is no value', () => {
    expect(plan([rule(), rule({ id: 'other', touch: 'first' })], {}).writes).toMatchObject([
      { rule: 'w', becomes: 'b' },
    ]);
    expect(plan([rule()], {}, { enquiry: null, all: [] }).left).toMatchObject([{ because: 'no value' }]);
  });
});

describe('slots', () => {
  const slots = rule({ touch: 'each', fields: ['one', 'two', 'three'] });
  const comes = (...sources: string[]) => ({ enquiry: null, all: sources.map(touch) });

  it('are filled in the order in which touches came, each value once', () => {
    expect(plan([slots], {}, comes('a', 'b', 'a')).writes).toMatchObject([
      { field: 'one', becomes: 'a' },
      { field: 'two', becomes: 'b' },
    ]);
    expect(plan([slots], { one: state({ is: 'a' }) }, comes('a', 'b')).writes).toMatchObject([
      { field: 'two', becomes: 'b' },
    ]);
  });

  it('are never overwritten: what finds no empty one is left', () => {
    const full = { one: state({ is: 'x' }), two: state({ is: 'y' }), three: state({ is: 'z' }) };
    const { writes, left } = plan([slots], full, comes('a'));
    expect([writes, left[0]]).toEqual([[], { rule: 'w', field: 'one', because: 'no slot' }]);
  });

  it('goes into no field that the CRM does not have, and its other fields are filled as ever', () => {
    const inTurn = rule({ touch: 'each', fields: ['a', 'b'] });
    const { writes, left } = planWrites([inTurn], facts, valueOf, (field) => (field === 'a' ? null : state()));
    expect(writes).toMatchObject([{ field: 'b', becomes: 'a' }]);
    expect(left).toEqual([{ rule: 'w', field: 'a', because: 'no field' }]);
  });

  it('come to rest: writing what is planned leaves nothing to write, whatever is there', () => {
    const value = fc.constantFrom('a', 'b', 'c', 'd');
    fc.assert(
      fc.property(
        fc.array(value, { maxLength: 6 }),
        fc.array(fc.option(value, { nil: '' }), { minLength: 3, maxLength: 3 }),
        (sources, held) => {
          const fields = Object.fromEntries(slots.fields.map((field, i) => [field, state({ is: held[i]! })]));
          const { writes } = plan([slots], fields, comes(...sources));
          for (const { field, was, becomes } of writes) {
            expect(was).toBe('');
            fields[field] = state({ is: becomes, written: { value: becomes, found: becomes } });
          }
          expect(plan([slots], fields, comes(...sources)).writes).toEqual([]);
        },
      ),
    );
  });
});

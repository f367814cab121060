import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isSamePerson, joinPeople, sharedIdentities, type Identity, type PersonRecord } from '.';

const mail = (hash: string): Identity => ({ kind: 'mail', hash });
const telephone = (hash: string): Identity => ({ kind: 'telephone', hash });
const number = (hash: string): Identity => ({ kind: 'record', hash });
const record = (id: string, name: string, company: string, ...identities: Identity[]): PersonRecord => ({
  id,
  name,
  company,
  identities,
});
/** Which records are one person's, each group in the order of its IDs. */
function groupsOf(...given: Parameters<typeof joinPeople>): string[][] {
  const groups = new Map<string, string[]>();
  for (const [id, { into }] of joinPeople(...given)) groups.set(into, [...(groups.get(into) ?? []), id]);
  return [...groups.values()];
}

describe('two records with the same mail address or telephone number', () => {
  it.each([
    ['Anna Pell', 'Bakery Oriel', 'anna pell', 'Oriel', true],
    ['Anna Pell', 'Bakery Oriel', 'Anna Pell', 'Northgate Florist', true],
    ['Pell, Anna', '', 'Anna Pell', 'Bakery Oriel', true],
    ['Zoë', 'Bread & Co', 'Zoe', 'Bread & Co', true],
    ['Anna', 'Bakery Oriel', 'Anna Pell', 'Bakery Oriel', true],
    ['', 'Bakery Oriel', 'Anna Pell', 'Bakery Oriel', true],
    ['Anna', 'Bakery Oriel', 'Anna', 'Northgate Florist', false],
    ['Anna Pell', 'Bakery Oriel', 'Ben Stone', 'Bakery Oriel', false],
    ['', 'Bakery Oriel', '', 'Northgate Florist', false],
  ])('%s of %s and %s of %s: %s', (name, company, otherName, otherCompany, same) => {
    const [one, other] = [
      { name, company },
      { name: otherName, company: otherCompany },
    ];
    expect([isSamePerson(one, other), isSamePerson(other, one)]).toEqual([same, same]);
  });
});

describe('people behind records', () => {
  it('are joined by mail address and by telephone number, also over a third record', () => {
    const records = [
      record('a', 'Anna Pell', '', mail('m1')),
      record('b', 'Anna Pell', '', mail('m1'), telephone('t1')),
      record('c', 'Anna Pell', '', telephone('t1')),
      record('d', 'Anna Pell', ''),
    ];
    expect(groupsOf(records)).toEqual([['a', 'b', 'c'], ['d']]);
    expect(joinPeople(records).get('c')).toEqual({ into: 'a', by: 'telephone' });
  });

  it('are not joined by a mailbox of two businesses, which is listed as shared', () => {
    const records = [
      record('a', 'Anna', 'Bakery Oriel', mail('info')),
      record('b', 'Ben', 'Northgate Florist', mail('info')),
      record('c', 'Anna', 'Bakery Oriel', mail('info'), telephone('t1')),
      record('d', 'Anna', 'Bakery Oriel', telephone('t1')),
    ];
    expect(groupsOf(records)).toEqual([['a'], ['b'], ['c', 'd']]);
    expect(sharedIdentities(records, joinPeople(records))).toEqual([
      { kind: 'mail', hash: 'info', records: ['a', 'b', 'c'] },
    ]);
  });

  it('are joined by the number of a record that the CRM merged, whatever their names', () => {
    const records = [
      record('a', 'Anna Pell', 'Bakery Oriel', number('P-1'), number('P-2')),
      record('b', 'A. Pell-Stone', 'Oriel Ltd', number('P-2')),
    ];
    expect(joinPeople(records).get('b')).toEqual({ into: 'a', by: 'record' });
  });

  it('are kept apart, and joined, as somebody says', () => {
    const records = [record('a', 'Anna', '', mail('m1')), record('b', 'Anna', '', mail('m1')), record('c', 'Ben', '')];
    expect(groupsOf(records, { apart: [{ one: 'b', other: 'a' }] })).toEqual([['a'], ['b'], ['c']]);
    expect(groupsOf(records, { joined: [{ one: 'c', other: 'a' }] })).toEqual([['a', 'b', 'c']]);
    expect(joinPeople(records, { joined: [{ one: 'c', other: 'gone' }] }).get('c')).toEqual({ into: 'c', by: '' });
  });

  it('are not joined by what more than twenty records have', () => {
    const many = Array.from({ length: 21 }, (_, i) => record(`r${i}`, 'Anna Pell', '', mail('m1')));
    expect(groupsOf(many)).toHaveLength(21);
    expect(groupsOf(many.slice(1))).toHaveLength(1);
  });

  const some = fc.array(
    fc.record({
      name: fc.constantFrom('Anna', 'Anna Pell', 'Ben Stone', ''),
      company: fc.constantFrom('Oriel', 'Northgate', ''),
      identities: fc.array(
        fc.record({
          kind: fc.constantFrom('mail' as const, 'telephone' as const),
          hash: fc.constantFrom('1', '2', '3'),
        }),
        { maxLength: 3 },
      ),
    }),
    { maxLength: 9 },
  );

  it('are the same in whatever order their records come', () => {
    fc.assert(
      fc.property(
        some.chain((list) => {
          const records = list.map((one, i) => ({ ...one, id: `r${i}` }));
          return fc.tuple(fc.constant(records), fc.shuffledSubarray(records, { minLength: records.length }));
        }),
        ([records, shuffled]) => {
          expect(Object.fromEntries(joinPeople(shuffled))).toEqual(Object.fromEntries(joinPeople(records)));
        },
      ),
    );
  });

  it('are one or shared: whoever has the same is joined, or it is listed', () => {
    fc.assert(
      fc.property(some, (list) => {
        const records = list.map((one, i) => ({ ...one, id: `r${i}` }));
        const people = joinPeople(records);
        const shared = new Set(sharedIdentities(records, people).map(({ kind, hash }) => `${kind} ${hash}`));
        for (const one of records)
          for (const other of records)
            for (const { kind, hash } of one.identities)
              if (other.identities.some((its) => its.kind === kind && its.hash === hash))
                expect(people.get(one.id)!.into === people.get(other.id)!.into || shared.has(`${kind} ${hash}`)).toBe(
                  true,
                );
      }),
    );
  });
});

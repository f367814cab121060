import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fewerRights, mayChange, type Rights } from './rights';

const rights: fc.Arbitrary<Rights> = fc.record({
  role: fc.constantFrom('owner', 'editor', 'reader'),
  mayRelease: fc.boolean(),
  seesPeople: fc.boolean(),
  seesMoney: fc.boolean(),
});
const order = ['reader', 'editor', 'owner'];
const atMost = (a: Rights, b: Rights) =>
  order.indexOf(a.role) <= order.indexOf(b.role) &&
  (['mayRelease', 'seesPeople', 'seesMoney'] as const).every((right) => !a[right] || b[right]);

describe('the rights that two have in common', () => {
  it('are never more than either has, and the same whoever comes first', () => {
    fc.assert(
      fc.property(rights, rights, (a, b) => {
        const both = fewerRights(a, b);
        expect([atMost(both, a), atMost(both, b)]).toEqual([true, true]);
        expect(fewerRights(b, a)).toEqual(both);
      }),
    );
  });

  it('with oneself are one’s own', () => {
    fc.assert(
      fc.property(rights, (a) => {
        expect(fewerRights(a, a)).toEqual(a);
      }),
    );
  });
});

it('a reader may change nothing', () => {
  expect((['owner', 'editor', 'reader'] as const).map((role) => mayChange({ role }))).toEqual([true, true, false]);
});

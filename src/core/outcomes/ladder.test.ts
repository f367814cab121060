import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { worthsBeside } from './ladder';
import type { LadderRule, Money } from './schema';

const ladder: LadderRule = { name: 'Lease', steps: ['ASK', 'QUAL', 'SIGNED'], tells: 'what it adds' };
const gbp = (minor: number): Money => ({ minor, currency: 'GBP' });
const added = (worths: Record<string, number>, of = ladder) => {
  const reached = Object.entries(worths).map(([code, minor]) => ({ code, worth: gbp(minor), ladder: of }));
  return worthsBeside(reached).map((worth) => worth!.minor);
};

describe('a ladder', () => {
  it('whose steps tell what each adds sums up to the highest that was reached', () => {
    expect(added({ ASK: 2000, QUAL: 13_500, SIGNED: 54_000 })).toEqual([2000, 11_500, 40_500]);
    expect(added({ ASK: 2000 })).toEqual([2000]);
    // A step that was never reached is passed over.
    expect(added({ ASK: 2000, SIGNED: 54_000 })).toEqual([2000, 52_000]);
  });

  it('takes from earlier steps what the deal turned out not to be worth', () => {
    expect(added({ ASK: 2000, QUAL: 13_500, SIGNED: 9000 })).toEqual([2000, 7000, 0]);
    expect(added({ ASK: 2000, SIGNED: 500 })).toEqual([500, 0]);
  });

  it('leaves each its whole worth where only one of them bids, and what is on no ladder', () => {
    expect(added({ ASK: 2000, QUAL: 13_500 }, { ...ladder, tells: 'one bids' })).toEqual([2000, 13_500]);
    expect(worthsBeside([{ code: 'ASK', worth: gbp(5), ladder: undefined }])).toEqual([gbp(5)]);
    expect(worthsBeside([{ code: 'ASK', worth: null, ladder }])).toEqual([null]);
    const asked = { code: 'ASK', worth: { minor: 9, currency: 'EUR' }, ladder };
    expect(worthsBeside([asked, { code: 'QUAL', worth: gbp(5), ladder }])).toEqual([asked.worth, gbp(5)]);
  });

  it('takes the first of several alike for its step, and leaves each payment what it is worth', () => {
    const paid = (minor: number, of?: LadderRule) => ({ code: 'SIGNED', worth: gbp(minor), ladder: of });
    expect(worthsBeside([paid(6184), paid(4472), paid(1)])).toEqual([gbp(6184), gbp(4472), gbp(1)]);
    const asked = { code: 'ASK', worth: gbp(2000), ladder };
    expect(worthsBeside([asked, paid(6184, ladder), paid(4472, ladder)])).toEqual([gbp(2000), gbp(4184), gbp(4472)]);
  });

  it('never comes to more than the highest step, whatever was reached', () => {
    const worths = fc.dictionary(fc.constantFrom(...ladder.steps), fc.nat({ max: 1_000_000 }), { minKeys: 1 });
    fc.assert(
      fc.property(worths, (given) => {
        const inOrder = Object.fromEntries(
          ladder.steps.flatMap((step) => (step in given ? [[step, given[step]!]] : [])),
        );
        const parts = added(inOrder);
        expect(parts.every((minor) => minor >= 0)).toBe(true);
        expect(parts.reduce((sum, minor) => sum + minor, 0)).toBe(Object.values(inOrder).at(-1));
      }),
    );
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { expectedWorth, firstReached, readAmount, writeAmount } from '.';
import { fleetQualified } from './rule.fixture';

const rule = fleetQualified;
const stages = { inOrder: ['Asked', 'Spoken', 'Fleet assessed', 'Offer', 'Signed'], ended: ['Not this time'] };
const changes = (...rows: [stage: string, at: number][]) => rows.map(([stage, at]) => ({ stage, at }));

describe('reaching a stage', () => {
  it('counts the first time, going back and forth changes nothing', () => {
    const moved = changes(['Asked', 1], ['Fleet assessed', 5], ['Spoken', 6], ['Fleet assessed', 9]);
    expect(firstReached(rule, moved, stages)).toEqual({ at: 5, stage: 'Fleet assessed', skipped: false });
  });

  it('takes a later stage for it: a stage skipped is reached', () => {
    expect(firstReached(rule, changes(['Asked', 1], ['Offer', 7]), stages)).toEqual({
      at: 7,
      stage: 'Offer',
      skipped: true,
    });
  });

  it('is not reached by an ending', () => {
    expect(firstReached(rule, changes(['Asked', 1], ['Not this time', 2]), stages)).toBeNull();
  });

  it('does not depend on the order in which changes arrive', () => {
    const all = changes(['Asked', 1], ['Spoken', 2], ['Offer', 3], ['Fleet assessed', 4], ['Signed', 5]);
    fc.assert(
      fc.property(fc.shuffledSubarray(all, { minLength: 5 }), (shuffled) => {
        expect(firstReached(rule, shuffled, stages)?.at).toBe(3);
      }),
    );
  });
});

describe('worth', () => {
  it('is the amount times the win rate, rounded half up to a whole penny', () => {
    expect(expectedWorth({ minor: 54_000, currency: 'GBP' }, rule.worth).minor).toBe(13_500);
    expect(expectedWorth({ minor: 2, currency: 'GBP' }, rule.worth).minor).toBe(1);
    expect(expectedWorth({ minor: 1, currency: 'GBP' }, rule.worth).minor).toBe(0);
  });

  it('is never more than the amount, at any win rate', () => {
    const rate = fc.tuple(fc.nat(500), fc.integer({ min: 1, max: 500 })).filter(([won, of]) => won <= of);
    fc.assert(
      fc.property(fc.nat(10 ** 9), rate, (minor, [won, of]) => {
        const worth = expectedWorth({ minor, currency: 'GBP' }, { ...rule.worth, winRate: { won, of } });
        expect(worth.minor).toBeLessThanOrEqual(minor);
        expect(Number.isInteger(worth.minor)).toBe(true);
      }),
    );
  });
});

describe('amounts as text', () => {
  it.each([
    ['540', 'GBP', 54_000],
    ['1249.5', 'GBP', 124_950],
    ['-3.07', 'EUR', -307],
    ['1200', 'JPY', 1200],
    ['1.234', 'KWD', 1234],
    ['540.00', 'GBP', 54_000],
  ])('%s %s', (text, currency, minor) => expect(readAmount(text, currency)).toEqual({ minor, currency }));

  it.each(['', 'abc', '1,000', '1.234', '1e5', '.5', '12.'])('refuses “%s” in pounds', (text) =>
    expect(readAmount(text, 'GBP')).toBeNull(),
  );

  it('are read back as they were written', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -(10 ** 11), max: 10 ** 11 }),
        fc.constantFrom('GBP', 'JPY', 'KWD'),
        (minor, currency) => {
          const money = { minor: minor === 0 ? 0 : minor, currency };
          expect(readAmount(writeAmount(money), currency)).toEqual(money);
        },
      ),
    );
  });
});

import { describe, expect, it } from 'vitest';
import type { OutcomeRule } from '../outcomes/schema';
import { exchangeBy } from './exchange';
import {
  broughtBy,
  qualifiedCodes,
  stepsBefore,
  winningCodes,
  type BroughtRules,
  type CountedOutcome,
} from './brought';

const rule = (code: string, kind: OutcomeRule['kind']) => ({ code, kind }) as OutcomeRule;
const rules: BroughtRules = {
  outcomes: [
    rule('FLT-QUAL', 'enquiry'),
    rule('FLT-SIGNED', 'agreement'),
    rule('SHP-PAID', 'payment'),
    rule('CAR-RENEW', 'renewal'),
    rule('CAR-BACK', 'undone'),
  ],
  ladders: [{ name: 'Fleet', steps: ['FLT-QUAL', 'FLT-SIGNED'], tells: 'what it adds' }],
  qualified: { form: 'FLT-QUAL', call: 'FLT-QUAL', order: 'SHP-PAID' },
};
const exchange = exchangeBy([{ currency: 'EUR', day: '2027-02-01', millionths: 850_000 }], 'GBP');
const outcome = (change: Partial<CountedOutcome>): CountedOutcome => ({
  code: 'SHP-PAID',
  subjectKind: 'order',
  currency: 'GBP',
  amount: 10_000,
  worth: 4000,
  corrected: null,
  isTakenBack: false,
  isExpected: false,
  isFirstWon: true,
  before: 0,
  day: '2027-02-03',
  ...change,
});
const brought = (change: Partial<CountedOutcome>) => broughtBy(outcome(change), rules, exchange);

describe('what an outcome brought', () => {
  it('is its amount as revenue and its worth as profit, both less what was refunded', () => {
    expect(brought({})).toMatchObject({
      counts: ['outcome.SHP-PAID', 'won'],
      amounts: { revenue: 10_000, profit: 4000 },
    });
    expect(brought({ corrected: 1000 }).amounts).toEqual({ revenue: 7000, profit: 1000 });
  });

  it('is nothing where all of it was taken back, where it is only expected, or where it is no sale', () => {
    expect(brought({ isTakenBack: true, corrected: 0 })).toEqual({ counts: [], amounts: {}, hasNoRate: false });
    expect(brought({ isExpected: true }).amounts).toEqual({});
    const qualified = brought({ code: 'FLT-QUAL', subjectKind: 'enquiry', isExpected: true });
    expect(qualified).toMatchObject({ counts: ['outcome.FLT-QUAL', 'qualified'], amounts: {} });
    expect(brought({ code: 'CAR-BACK' })).toMatchObject({ counts: ['outcome.CAR-BACK'], amounts: {} });
    expect(brought({ code: 'SHP-GONE' })).toMatchObject({ counts: ['outcome.SHP-GONE'], amounts: {} });
  });

  it('of an enquiry is what was won first, so that a lease and its first payment are one', () => {
    const lease = { code: 'FLT-SIGNED', subjectKind: 'enquiry' } as const;
    expect(brought(lease).counts).toContain('won');
    expect(brought({ ...lease, isFirstWon: false })).toMatchObject({ counts: ['outcome.FLT-SIGNED'], amounts: {} });
  });

  it('holds what the steps before it told of the same deal, and a renewal brings money without being won anew', () => {
    expect(brought({ code: 'FLT-SIGNED', subjectKind: 'enquiry', worth: 3000, before: 1000 }).amounts.profit).toBe(
      4000,
    );
    expect(brought({ code: 'CAR-RENEW', subjectKind: 'subscription' })).toMatchObject({
      counts: ['outcome.CAR-RENEW'],
      amounts: { profit: 4000 },
    });
  });

  it('in another currency is exchanged by its day, and left out and said to be where that has no rate', () => {
    expect(brought({ currency: 'EUR' }).amounts).toEqual({ revenue: 8500, profit: 3400 });
    expect(brought({ currency: 'EUR', corrected: 1000 }).amounts).toEqual({ revenue: 5950, profit: 850 });
    const counts = ['outcome.SHP-PAID', 'won'];
    expect(brought({ currency: 'EUR', day: '2027-01-31' })).toEqual({ counts, amounts: {}, hasNoRate: true });
  });
});

it('what wins, what qualifies and what comes before on a ladder is read from the rules', () => {
  expect(winningCodes(rules)).toEqual(['FLT-SIGNED', 'SHP-PAID']);
  expect(qualifiedCodes(rules)).toEqual(['FLT-QUAL']);
  expect(stepsBefore(rules, 'FLT-SIGNED')).toEqual(['FLT-QUAL']);
  expect(stepsBefore(rules, 'SHP-PAID')).toEqual([]);
});

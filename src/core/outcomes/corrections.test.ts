import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { noticesAbout, worthAfter, type PaymentNotice } from './corrections';
import { ofSubscription, postedHappening } from './happening';

const gbp = (minor: number) => ({ minor, currency: 'GBP' });
const back = (number: string, at: number, minor: number | null): PaymentNotice => ({
  number,
  payment: '',
  at,
  cause: 'refund',
  says: { back: minor === null ? null : gbp(minor) },
});
const left = (number: string, at: number, minor: number): PaymentNotice => ({
  number,
  payment: '',
  at,
  cause: 'refund',
  says: { left: gbp(minor) },
});
/** An order of £178 that is worth £90 without delivery, tax and what the goods cost. */
const paid = { amount: gbp(17_800), worth: gbp(9000) };

describe('what is left of an outcome’s worth', () => {
  it('is all of it while nobody says anything', () => {
    expect(worthAfter(paid, [])).toEqual({ worth: gbp(9000), change: '', cause: '' });
  });

  it('is nothing once the whole payment was given back', () => {
    expect(worthAfter(paid, [back('r1', 5, null)])).toEqual({ worth: gbp(0), change: 'taken_back', cause: 'refund' });
    expect(worthAfter(paid, [back('r1', 5, 17_800)]).change).toBe('taken_back');
    const disputed: PaymentNotice = { ...back('d1', 5, null), cause: 'chargeback' };
    expect(worthAfter(paid, [disputed])).toMatchObject({ change: 'taken_back', cause: 'chargeback' });
  });

  it('is the same part of it as of the payment', () => {
    expect(worthAfter(paid, [back('r1', 5, 8900)])).toEqual({ worth: gbp(4500), change: 'revalued', cause: 'refund' });
    expect(worthAfter(paid, [back('r1', 5, 8900), back('r2', 6, 4450)]).worth).toEqual(gbp(2250));
  });

  it('a notice that says what is left stands for all before it; one that wins a dispute gives the worth back', () => {
    expect(worthAfter(paid, [back('r1', 5, 8900), left('w1', 7, 17_800)])).toMatchObject({
      worth: gbp(9000),
      change: '',
    });
    expect(worthAfter(paid, [left('w1', 4, 17_800), back('r1', 5, 8900)]).worth).toEqual(gbp(4500));
  });

  it('never falls below nothing, and says nothing of another currency', () => {
    expect(worthAfter(paid, [back('r1', 5, 20_000), back('r2', 6, 20_000)]).worth).toEqual(gbp(0));
    const euros: PaymentNotice = { ...back('r1', 5, null), says: { back: { minor: 100, currency: 'EUR' } } };
    expect(worthAfter(paid, [euros])).toMatchObject({ worth: gbp(9000), change: '' });
  });

  it('of an outcome without an amount changes only where all of it was given back', () => {
    const fixed = { amount: null, worth: gbp(2000) };
    expect(worthAfter(fixed, [back('r1', 5, 500)])).toMatchObject({ worth: gbp(2000), change: '' });
    expect(worthAfter(fixed, [back('r1', 5, null)])).toMatchObject({ worth: gbp(0), change: 'taken_back' });
    expect(worthAfter({ amount: null, worth: null }, [left('r1', 5, 0)])).toMatchObject({
      worth: null,
      change: 'taken_back',
    });
  });

  it('does not depend on the order in which notices come, nor on how often each comes', () => {
    const notice = fc
      .tuple(fc.nat(20), fc.nat(1000), fc.nat(20_000), fc.boolean())
      .map(([n, at, minor, isLeft]) => (isLeft ? left(`n${n}`, at, minor) : back(`n${n}`, at, minor)));
    const some = fc.uniqueArray(notice, { selector: ({ number }) => number, maxLength: 8 });
    fc.assert(
      fc.property(
        some.chain((all) => fc.tuple(fc.constant(all), fc.shuffledSubarray([...all, ...all], { minLength: 0 }))),
        ([all, again]) => {
          const now = worthAfter(paid, all);
          expect(worthAfter(paid, [...again, ...all].reverse())).toEqual(now);
          expect(now.worth!.minor).toBeGreaterThanOrEqual(0);
          expect(now.worth!.minor).toBeLessThanOrEqual(9000);
        },
      ),
    );
  });
});

describe('a notice of a subscription', () => {
  const of = ofSubscription({ id: 's', number: 'CP-1' });
  const posted = (step: string, payment: string, minor: number | null, undoes = false) =>
    postedHappening(of, {
      sender: 'till',
      step,
      payment,
      undoes,
      number: `${step} ${payment}`,
      at: 1,
      money: minor === null ? null : gbp(minor),
    });
  const started = posted('started', '', null);
  const first = posted('paid', 'P-1', 3600);
  const second = posted('renewed', 'P-2', 3600);
  const refund = posted('refund', 'P-2', 900, true);
  const given = { ...back('r', 2, 900), payment: 'P-2' };
  const unnamed = back('r', 2, 900);

  it('is about the payment that it names, and leaves the sign-up and the others alone', () => {
    const all = [started, first, second, refund];
    expect(all.map((one) => noticesAbout(one, all, [given]).length)).toEqual([0, 0, 1, 0]);
  });

  it('that names none is about the only payment there is, and about none of several', () => {
    expect(noticesAbout(first, [started, first], [unnamed])).toEqual([unnamed]);
    expect(noticesAbout(started, [started, first], [unnamed])).toEqual([]);
    expect(noticesAbout(first, [started, first, second], [unnamed])).toEqual([]);
  });

  it('that names a payment nobody posted is about none', () => {
    expect(noticesAbout(first, [first], [{ ...given, payment: 'P-9' }])).toEqual([]);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documentOf, guessNoticeReading, paymentNotice, readNotice, usualReading, type SenderReading } from '.';

const now = Date.UTC(2027, 1, 15, 17);
const sender: SenderReading = { reading: usualReading, inMinor: false, currency: 'GBP' };
const read = (document: unknown, change: Partial<SenderReading> = {}) =>
  readNotice({ ...sender, ...change }, document, now, () => null);
const noticeOf = (document: unknown, change: Partial<SenderReading> = {}) => {
  const one = read(document, change);
  expect(one.ok).toBe(true);
  return (one as Extract<typeof one, { ok: true }>).notice;
};

describe('a postback', () => {
  it('says what happened, to what, for how much and when', () => {
    expect(
      noticeOf({ id: 'N-1', step: 'refund', order: 'LK-7', amount: '54.00', at: '2027-02-15T09:00:00Z', test: false }),
    ).toEqual({
      number: 'N-1',
      step: 'refund',
      about: { kind: 'order', number: 'LK-7' },
      payment: '',
      money: { minor: 5400, currency: 'GBP' },
      at: Date.UTC(2027, 1, 15, 9),
      leadToken: '',
      clickId: '',
      isTest: false,
    });
  });

  it('is about its subscription where it names both, and happened when it came where it names no time', () => {
    const { about, at } = noticeOf({ step: 'renewal', order: 'LK-7', subscription: 'CP-1', payment: 'P-2' });
    expect([about, at]).toEqual([{ kind: 'subscription', number: 'CP-1' }, now]);
    // No clock of theirs is believed to be ahead of ours.
    expect(noticeOf({ step: 'x', order: '1', at: '2027-02-16T00:00:00Z' }).at).toBe(now);
  });

  it('without a number of its own is known by what it says, so that the same one again is the same', () => {
    const one = { step: 'refund', order: 'LK-7', amount: '10' };
    expect(noticeOf(one).number).toBe(noticeOf({ ...one }).number);
    expect(noticeOf(one).number).not.toBe(noticeOf({ ...one, amount: '11' }).number);
  });

  it('names the part that cannot be read, and what would be right', () => {
    expect(read({ order: 'LK-7' })).toMatchObject({ ok: false, field: 'step' });
    expect(read({ step: 'refund' })).toMatchObject({ ok: false, field: 'order' });
    expect(read({ step: 'refund', order: '1', amount: 'much' })).toMatchObject({
      field: 'amount',
      was: '“much” is no amount in GBP',
    });
    expect(read({ step: 'refund', order: '1', at: 'soon' })).toMatchObject({ field: 'at' });
  });

  it('has amounts in pence, or with a comma, where its sender writes them so', () => {
    expect(noticeOf({ step: 'x', order: '1', amount: 5400 }, { inMinor: true }).money?.minor).toBe(5400);
    expect(noticeOf({ step: 'x', order: '1', amount: '54,50', currency: 'eur' }).money).toEqual({
      minor: 5450,
      currency: 'EUR',
    });
  });

  it('is read whatever stands in it', () => {
    fc.assert(fc.property(fc.json(), (json) => void read(JSON.parse(json))));
  });
});

describe('what became of a payment', () => {
  const notice = { number: 'N', payment: '', at: 1, money: { minor: 500, currency: 'GBP' }, isTest: false };

  it('is what its step means: an amount given back or left, all of it without one', () => {
    expect(paymentNotice(notice, 'refund', 'back')).toMatchObject({ cause: 'refund', says: { back: notice.money } });
    expect(paymentNotice(notice, 'chargeback', 'left')).toMatchObject({ says: { left: notice.money } });
    expect(paymentNotice({ ...notice, money: null }, 'refund', 'left')).toMatchObject({ says: { back: null } });
  });

  it('is nothing of a test, or of what merely happened', () => {
    expect(paymentNotice({ ...notice, isTest: true }, 'refund', 'back')).toBeNull();
    expect(paymentNotice(notice, 'happens', 'back')).toBeNull();
    expect(paymentNotice(notice, null, 'back')).toBeNull();
  });
});

describe('an example', () => {
  it('is read as JSON, a form, or an address with its query', () => {
    const parts = { step: 'paid', no: 'LK-7' };
    for (const text of ['{"step":"paid","no":"LK-7"}', 'step=paid&no=LK-7', 'https://x.example/in?step=paid&no=LK-7#y'])
      expect(documentOf(text)).toEqual(parts);
    expect([documentOf('{"step"'), documentOf('hello')]).toEqual([null, null]);
  });

  it('tells by its names where the parts are', () => {
    expect(guessNoticeReading(['/data/event_type', '/data/type', '/data/orderId', '/sum'])).toMatchObject({
      step: '/data/type',
      order: '/data/orderId',
      amount: '/sum',
      payment: '',
    });
  });
});

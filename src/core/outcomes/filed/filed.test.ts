import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { writeAmount } from '../worth';
import { fileParts, guessColumns, guessHow, readFiledRow, type FiledHow } from '.';

const now = Date.parse('2027-02-15T17:00:00Z');
const zoned = (text: string) => {
  const at = /^(\d{4}-\d\d-\d\d) (\d\d:\d\d)$/.exec(text);
  return at ? Date.parse(`${at[1]}T${at[2]}:00Z`) - 3_600_000 : null;
};
const how: FiledHow = {
  columns: Object.fromEntries(fileParts.map((part) => [part, part])) as FiledHow['columns'],
  ...{ timeZone: 'Europe/Amsterdam', dates: 'day first', decimals: 'point', currency: 'EUR' },
  ...{ says: '', platform: '', agreed: 'no', compares: '' },
};
const row = {
  ...{ click_id: 'Q1', outcome: 'FLT-SIGNED', happened_at: '2027-02-14 10:00', amount: '1,249.50' },
  ...{ currency: 'GBP', order_id: 'L-7', change: '' },
};
const read = (part: object, other: Partial<FiledHow> = {}) =>
  readFiledRow({ ...row, ...part }, { ...how, ...other }, zoned, now);

describe('a row of a file of conversions', () => {
  it('is read with its time in the zone of the file and its amount in minor units', () => {
    expect(read({})).toEqual({
      ...{ clickId: 'Q1', says: 'FLT-SIGNED', at: Date.parse('2027-02-14T09:00:00Z') },
      ...{ money: { minor: 124_950, currency: 'GBP' }, orderId: 'L-7', change: 'new' },
    });
    expect(read({ happened_at: '2027-02-14T10:00:00+05:00' })).toMatchObject({
      at: Date.parse('2027-02-14T05:00:00Z'),
    });
  });

  it('has decimal commas, spaces between thousands, no amount, or the currency of the file', () => {
    expect(read({ amount: '1.249,50' }, { decimals: 'comma' })).toMatchObject({ money: { minor: 124_950 } });
    expect(read({ amount: "1'249.5", currency: '' })).toMatchObject({ money: { minor: 124_950, currency: 'EUR' } });
    expect(read({ amount: '1 249' })).toMatchObject({ money: { minor: 124_900 } });
    expect(read({ amount: '' })).toMatchObject({ money: null });
  });

  it('says what it changes, and then needs no click where it names its order', () => {
    expect(read({ change: 'Taken back', click_id: '' })).toMatchObject({ change: 'taken-back', orderId: 'L-7' });
    expect(read({ change: 'revalued', amount: '' })).toMatchObject({ part: 'amount' });
    expect(read({ change: 'revalued', click_id: '', order_id: '' })).toMatchObject({ part: 'click_id' });
  });

  it('written otherwise by any grouping of its digits is the same amount', () => {
    fc.assert(
      fc.property(fc.nat({ max: 999_999_999 }), fc.constantFrom('point', 'comma'), (minor, decimals) => {
        const [whole, rest] = writeAmount({ minor, currency: 'GBP' }).split('.') as [string, string];
        const [group, mark] = decimals === 'comma' ? ['.', ','] : [',', '.'];
        const grouped = `${whole.replace(/\B(?=(\d{3})+$)/g, group)}${mark}${rest}`;
        expect(read({ amount: grouped }, { decimals })).toMatchObject({ money: { minor, currency: 'GBP' } });
        expect(read({ amount: `${whole}${mark}${rest}` }, { decimals })).toMatchObject({ money: { minor } });
      }),
    );
  });

  it.each<[string, object, Partial<FiledHow>, string, RegExp]>([
    ['no click ID', { click_id: '' }, {}, 'click_id', /no click ID/],
    ['no outcome', { outcome: '' }, {}, 'outcome', /which outcome/],
    ['a time that is none', { happened_at: 'soon' }, {}, 'happened_at', /`soon` is no time/],
    ['a time to come', { happened_at: '2027-02-16 10:00' }, {}, 'happened_at', /not happened yet/],
    ['an amount with the other decimal sign', { amount: '12,50' }, {}, 'amount', /`12,50` is no amount in GBP/],
    ['more digits than its currency has', { amount: '12.50', currency: 'JPY' }, {}, 'amount', /no amount in JPY/],
    ['an amount below nothing', { amount: '-3' }, {}, 'amount', /no amount/],
    ['no currency', { currency: '' }, { currency: '' }, 'currency', /has no currency/],
    ['a change that is none', { change: 'gone' }, {}, 'change', /`gone` is no change/],
  ])('with %s is refused by its part, with what would be right', (_, part, other, wrong, was) => {
    const found = read(part, other);
    expect(found).toMatchObject({ part: wrong, was: expect.stringMatching(was), fix: expect.stringMatching(/./) });
  });
});

describe('the columns of a file', () => {
  it('of the open form are themselves, whatever stands beside them', () => {
    expect(guessColumns(['id', ...fileParts, 'order'])).toEqual(how.columns);
  });

  it('of another program are guessed by their headings, each taken once', () => {
    expect(guessColumns(['deal', 'click ref', 'goal reached', 'won on', 'lease value', 'cur'])).toEqual({
      ...{ click_id: 'click ref', outcome: 'goal reached', happened_at: 'won on', amount: 'lease value' },
      ...{ currency: 'cur', order_id: '', change: '' },
    });
  });

  it('show how days and amounts are written', () => {
    const of = (rows: Record<string, string>[]) =>
      guessHow(['click_id', 'happened_at', 'amount'], rows, { timeZone: 'Europe/London', currency: 'GBP' });
    expect(of([{ happened_at: '02/15/2027 10:00', amount: '12,50' }])).toMatchObject({
      dates: 'month first',
      decimals: 'comma',
    });
    expect(of([{ happened_at: '15/02/2027', amount: '1,250.00' }])).toMatchObject({
      dates: 'day first',
      decimals: 'point',
      currency: 'GBP',
    });
  });
});

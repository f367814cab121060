import { expect, it } from 'vitest';
import { readOrder } from './orders';

const shop = {
  name: 'shop',
  number: '/order/number',
  currency: '/order/currency',
  amounts: ['/order/total', '/order/cost'],
  sameMinutes: 60,
};

it('an order is read from where its rule says, with the amounts that are there', () => {
  const said = { order: { number: 'LK-20419', currency: 'GBP', total: '129.00', cost: 48.2, other: 'x' } };
  expect(readOrder(said, [shop])).toEqual({
    number: 'LK-20419',
    currency: 'GBP',
    amounts: [
      { name: 'total', amount: '129.00' },
      { name: 'cost', amount: '48.2' },
    ],
  });
});

it('a page without its number says none, whatever else stands there', () => {
  for (const said of [
    null,
    'text',
    { order: {} },
    { order: { number: { deep: 1 }, total: 3 } },
    { order: { number: '' } },
  ])
    expect(readOrder(said, [shop])).toBeNull();
});

it('what cannot be is left out: a currency that is none, an amount without end, a number without end', () => {
  const said = { order: { number: 'A1', currency: 'pounds', total: '9'.repeat(40) } };
  expect(readOrder(said, [shop])).toEqual({ number: 'A1', currency: '', amounts: [] });
  expect(readOrder({ order: { number: 'x'.repeat(61) } }, [shop])).toBeNull();
});

it('the first rule whose number is there is taken', () => {
  const other = { ...shop, name: 'second', number: '/basket/id' };
  expect(readOrder({ basket: { id: 7 } }, [shop, other])?.number).toBe('7');
});

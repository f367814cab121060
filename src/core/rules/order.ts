import type { OrderRule } from '../capture/schema';
import { quoteValue } from '../quote-value';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { list, number, value, words } = partsOf<OrderRule>();
const tidy = (text: string) => text.trim();

/** Where the website's pages say an order. */
export const order = defineRule<OrderRule>({
  station: 'Capture',
  at: inList(['capture', 'orders'], ({ name }) => name),
  calls: (name) => `the orders of ${quoteValue(name)}`,
  says: [
    'An order of the ',
    words('name', 'What people call it', 'shop', { isName: true }),
    ' is what a page says with a number in ',
    value('number', 'Where its number is', 'a place', { heading: 'Number', tidy }),
    ', its currency in ',
    value('currency', 'Where its currency is', 'a place', { heading: 'Currency', tidy }),
    ' and its amounts in ',
    list('amounts', 'Where its amounts are', 'none', { heading: 'Amounts', oneWord: true }),
    '. One with the same amounts under another number within ',
    number('sameMinutes', 'Minutes within which it is probably the same', { unit: ['minute', 'minutes'] }),
    ' is probably the same, and waits for a look.',
  ],
  start: () => ({
    name: 'shop',
    number: '/order/number',
    currency: '/order/currency',
    amounts: ['/order/total'],
    sameMinutes: 60,
  }),
});

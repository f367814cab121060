import { count, counted } from '../counted';
import type { WayIn } from './contract';

/** An order in the website's own shop. No CRM stands between it and what is told. */
export const order: WayIn = {
  kind: 'order',
  words: 'Shop orders',
  subject: 'order',
  alone: 'order',
  one: 'order',
  many: 'orders',
  hops: ['clicked', 'landed', 'kept', 'ordered', 'told', 'confirmed'],
  own: 'ordered',
  matters: 'told',
  opening(ordered, told) {
    const orders = counted(ordered, 'order', 'orders');
    if (told < ordered)
      return `Of ${orders} with a known paid click, ${count(told)} ${told === 1 ? 'was' : 'were'} told to a platform.`;
    return ordered === 1
      ? 'The one order with a known paid click was told to a platform.'
      : `All ${orders} with a known paid click were told to a platform.`;
  },
  latest: 'Latest orders',
  didNot: 'did not order',
  mayStill: 'may still order',
};

import { count, counted } from '../counted';
import type { WayIn } from './contract';

/** A subscription: signed up for on the website, paid and renewed elsewhere, which its postbacks say. */
export const subscription: WayIn = {
  kind: 'subscription',
  words: 'Subscriptions',
  subject: 'subscription',
  alone: 'subscription',
  one: 'subscription',
  many: 'subscriptions',
  hops: ['clicked', 'landed', 'kept', 'paid', 'told', 'confirmed'],
  own: 'paid',
  matters: 'told',
  opening(paid, told) {
    const subscriptions = counted(paid, 'paid subscription', 'paid subscriptions');
    if (told < paid)
      return `Of ${subscriptions} with a known paid click, ${count(told)} ${told === 1 ? 'was' : 'were'} told to a platform.`;
    return paid === 1
      ? 'The one paid subscription with a known paid click was told to a platform.'
      : `All ${subscriptions} with a known paid click were told to a platform.`;
  },
  latest: 'Latest subscriptions',
  didNot: 'did not pay',
  mayStill: 'may still pay',
};

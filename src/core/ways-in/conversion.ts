import { count, counted } from '../counted';
import type { WayIn } from './contract';

/** What somebody did on the website that is neither an enquiry nor an order, or what a file says happened elsewhere. */
export const conversion: WayIn = {
  kind: 'conversion',
  words: 'Other conversions',
  subject: 'conversion',
  alone: 'conversion',
  one: 'conversion',
  many: 'conversions',
  hops: ['clicked', 'landed', 'kept', 'converted', 'told', 'confirmed'],
  own: 'converted',
  matters: 'told',
  opening(converted, told) {
    const conversions = counted(converted, 'conversion', 'conversions');
    if (told < converted)
      return `Of ${conversions} with a known paid click, ${count(told)} ${told === 1 ? 'was' : 'were'} told to a platform.`;
    return converted === 1
      ? 'The one conversion with a known paid click was told to a platform.'
      : `All ${conversions} with a known paid click were told to a platform.`;
  },
  latest: 'Latest conversions',
  didNot: 'did not convert',
  mayStill: 'may still convert',
};

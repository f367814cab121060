import type { CaptureRules } from '../capture/schema';
import { defineRule } from './define';
import { inOne } from './place';
import { partsOf } from './says';

/** How long touches are kept, and how their values are read. */
export type KeepTouchRule = Pick<CaptureRules['keep'], 'touchDays' | 'touchAge' | 'utmLowerCase' | 'setBy'>;

const { choice, number } = partsOf<KeepTouchRule>();

export const keep = defineRule<KeepTouchRule>({
  station: 'Capture',
  at: inOne(['capture', 'keep'], ['touchDays', 'touchAge', 'utmLowerCase', 'setBy']),
  says: [
    'The first and the last touch are kept ',
    number('touchDays', 'Days a touch is kept', { unit: ['day', 'days'] }),
    ', ',
    choice('touchAge', 'Counted from', [
      ['renewed', 'counted anew from each visit'],
      ['fixed', 'counted from the touch itself'],
    ]),
    '; UTM values are kept ',
    choice('utmLowerCase', 'Letters of UTM values', [
      [true, 'in lower case'],
      [false, 'as they arrive'],
    ]),
    '. Cookies are set by ',
    choice('setBy', 'Who sets cookies', [
      ['page', 'the page alone'],
      ['server', 'the page and the website’s own subdomain'],
    ]),
    '.',
  ],
});

import { quoteValue } from '../quote-value';
import { listed } from '../listed';
import { testWords } from '../events/words';
import type { EventReason, MomentKind } from '../events/reasons';
import type { CueKind } from '../events/schema';

const momentWords: Record<MomentKind, string> = {
  arrived: 'somebody arrived',
  pressed: 'something was pressed',
  sent: 'a form was sent',
  ordered: 'an order was placed',
  read_to: 'somebody read on',
  stayed: 'somebody stayed',
  said: 'the page said something',
};
const waitsFor: Record<CueKind, string> = {
  arrives: 'an arrival',
  presses: 'a press',
  presses_words: 'a press',
  leaves_for: 'a link that is followed',
  sends: 'a form that is sent',
  orders: 'an order',
  reads_to: 'a part that comes into view',
  reads_down: 'reading down the page',
  stays: 'a stay',
  says: 'something that the page says',
};

const valueOr = (value: string, none: string): string => (value === '' ? none : quoteValue(value));

/** Why a cue or a condition of an event holds or does not, in words that follow "because". */
export function eventReasonWords(reason: EventReason, nameOf: (reading: string) => string = (id) => id): string {
  switch (reason.code) {
    case 'other_moment':
      return `it waits for ${waitsFor[reason.cue]}, and ${momentWords[reason.moment]}`;
    case 'told_again':
      return 'the page was loaded again, or reached by Back';
    case 'held': {
      const { test, not, value, wanted } = reason;
      const words = testWords[test][not ? 1 : 0];
      return `${valueOr(value, 'no value')} is held against “${words}${test === 'there' ? '' : ` ${valueOr(wanted, 'nothing')}`}”`;
    }
    case 'element':
      return `the element is looked for by ${quoteValue(reason.selector)}`;
    case 'form':
      return `the form is ${valueOr(reason.form, 'one without a name')}, wanted is ${quoteValue(reason.wanted)}`;
    case 'enough':
      return `it came to ${reason.amount}, wanted is ${reason.wanted}`;
    case 'order':
      return `the order is ${valueOr(reason.number, 'one without a number')}`;
    case 'said':
      return `the page says ${listed(reason.names.map(quoteValue)) || 'nothing'}, wanted is ${quoteValue(reason.wanted)}`;
    case 'not_recorded':
      return `${quoteValue(nameOf(reason.what))} was not recorded`;
  }
}

import type { EventRules } from '../events/schema';
import { defineRule } from './define';
import { inOne } from './place';
import { partsOf } from './says';

const { choice } = partsOf<Pick<EventRules, 'presses'>>();

/** Whether pages record which links and buttons are pressed. */
export const presses = defineRule<Pick<EventRules, 'presses'>>({
  station: 'Events',
  at: inOne(['events'], ['presses']),
  calls: () => 'what is recorded of presses',
  says: [
    'Pages ',
    choice('presses', 'Whether presses are recorded', [
      [true, 'record which links and buttons are pressed'],
      [false, 'do not record what is pressed'],
    ]),
    '.',
  ],
});

import type { CaptureRules } from '../capture/schema';
import { defineRule } from './define';
import { inOne } from './place';
import { partsOf } from './says';

const { choice, when } = partsOf<CaptureRules['consent']>();

/** Whether pages wait for consent. */
export const consent = defineRule<CaptureRules['consent']>({
  station: 'Capture',
  at: inOne(['capture', 'consent']),
  says: [
    'Pages keep and send ',
    choice('required', 'Before consent', [
      [false, 'without asking for consent'],
      [true, 'nothing before somebody agreed to measurement'],
    ]),
    '; “no” clears what is kept. ',
    when(
      ({ required }) => required,
      'People who did not agree are ',
      choice('count', 'Who did not agree', [
        [false, 'not counted'],
        [true, 'counted without any identifier'],
      ]),
      ', and platforms are told of nobody who did not agree to advertising. ',
    ),
    'The website says what somebody chose by its event `avrix:consent`.',
  ],
});

import type { CaptureRules } from '../capture/schema';
import { defineRule } from './define';
import { inOne } from './place';
import { partsOf } from './says';

const { number, list, said } = partsOf<CaptureRules['touch']>();

/** When a visit ends, and whose pages are no source. */
export const visit = defineRule<CaptureRules['touch']>({
  station: 'Capture',
  at: inOne(['capture', 'touch']),
  says: [
    'A visit ends after ',
    number('visitMinutes', 'Idle minutes that end a visit'),
    ' idle minutes. Own pages, never a source: ',
    list('ownHosts', 'Own hosts', 'none', { oneWord: true }),
    '.',
    said(
      ({ passThroughHosts }) => passThroughHosts.length > 0,
      ' Payment and sign-in hosts, no source either: ',
      list('passThroughHosts', 'Payment and sign-in hosts', 'none', { oneWord: true }),
      '.',
    ),
  ],
});

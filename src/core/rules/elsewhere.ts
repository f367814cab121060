import { isUnder } from '../capture/address';
import type { Elsewhere } from '../capture/schema';
import { quoteValue } from '../quote-value';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { choice, value, words } = partsOf<Elsewhere>();

/** A place outside that values follow visitors to. */
export const elsewhere = defineRule<Elsewhere>({
  station: 'Capture',
  at: inList(['capture', 'elsewhere'], ({ name }) => name),
  says: [
    'Values go along to ',
    choice('kind', 'What the place is', [
      ['own_website', 'your website'],
      ['frame', 'the framed form'],
      ['form', 'the form'],
      ['calendar', 'the calendar'],
    ]),
    ' ',
    value('host', 'Host', 'offers.example', { tidy: (text) => text.trim().toLowerCase() }),
    ', called “',
    words('name', 'Name of the place', 'a name', { isName: true }),
    '”; ',
    choice('returns', 'What comes back', [
      ['restored', 'the snippet there restores them'],
      ['thank_you', 'people come back with them to a page of the website'],
      ['hook', 'its back end tells Avrix, at once or by file'],
      ['nothing', 'nothing comes back'],
    ]),
    '.',
  ],
  start: () => ({ name: '', host: '', kind: 'form', returns: 'thank_you' }),
  check({ kind, host, returns }, { capture }) {
    const own = capture.touch.ownHosts.some((one) => isUnder(host, one));
    if (kind === 'own_website' && !own)
      return [
        { field: 'host', was: `${quoteValue(host)} is no host of yours`, wants: 'Name it among the own hosts first.' },
      ];
    if (returns === 'restored' && kind !== 'own_website')
      return [
        {
          field: 'returns',
          was: 'the snippet is on your own websites only',
          wants: 'Say how its answer comes back.',
        },
      ];
    return [];
  },
});

import { isUnder } from '../capture/address';
import { readingWords } from '../capture/readings';
import type { Elsewhere, PlainValue } from '../capture/schema';
import { listed } from '../listed';
import { platformName } from '../platforms/links';
import type { OwnPlatform } from '../platforms/schema';
import { quoteValue } from '../quote-value';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { choice, value, words, told } = partsOf<Elsewhere>();

const plainWords = ({ reading, platform }: PlainValue, platforms: readonly OwnPlatform[]): string =>
  reading === 'kept_value'
    ? quoteValue(platform)
    : reading === 'click_id' && platform
      ? `the click ID of ${platformName(platform, platforms)}`
      : readingWords[reading];

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
    told(({ plain }, { platforms = [] }) =>
      plain.length === 0
        ? ''
        : `; as plain text ${listed(plain.map((one) => `${quoteValue(one.name)} is ${plainWords(one, platforms)}`))}`,
    ),
    '.',
  ],
  start: () => ({ name: '', host: '', kind: 'form', returns: 'thank_you', plain: [] }),
  check({ kind, host, returns, plain }, { capture }) {
    const names = plain.map(({ name }) => name);
    const twice = names.find((name, at) => names.indexOf(name) !== at);
    if (twice !== undefined)
      return [{ field: 'plain', was: `${quoteValue(twice)} is there twice`, fix: 'Give each name one value.' }];
    const personal = plain.find(
      ({ reading, platform, name }) =>
        capture.pii.names.includes(name.toLowerCase()) ||
        (reading === 'kept_value' && capture.pii.names.includes(platform.toLowerCase())),
    );
    if (personal)
      return [
        {
          field: 'plain',
          was: `${quoteValue(personal.name)} is on the list of names with personal data`,
          fix: 'Leave it out: plain values stand in addresses that anybody can read.',
        },
      ];
    const own = capture.touch.ownHosts.some((one) => isUnder(host, one));
    if (kind === 'own_website' && !own)
      return [
        { field: 'host', was: `${quoteValue(host)} is no host of yours`, fix: 'Name it among the own hosts first.' },
      ];
    if (returns === 'restored' && kind !== 'own_website')
      return [
        {
          field: 'returns',
          was: 'the snippet is on your own websites only',
          fix: 'Say how its answer comes back.',
        },
      ];
    return [];
  },
});

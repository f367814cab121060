import type { TellingRule } from '../outcomes/schema';
import type { OwnPlatform } from '../platforms/schema';
import { quoteValue } from '../quote-value';
import { listed } from '../listed';
import { isShipped, knownNames, linksOf, platformName } from '../platforms/links';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf, type Beside, type Option } from './says';

const { choice, number, told, when } = partsOf<TellingRule>();

const accountName = ({ account, platform }: TellingRule, { accounts = [], platforms = [] }: Beside): string =>
  accounts.find(({ key }) => key === account)?.name ?? platformName(platform, platforms);

const clickWords = {
  'every click': 'of every click within its time',
  'last paid touch': 'only of the last paid touch',
} as const;
/** Which clicks a kind of platform is told of, in words. */
const usualOf = (kind: string, own: readonly OwnPlatform[]): string =>
  clickWords[linksOf(own).find((one) => one.kind === kind)?.tells ?? 'every click'];

/** That an outcome is told to an account, and for what. */
export const telling = defineRule<TellingRule>({
  station: 'Report-backs',
  at: inList(['telling'], ({ outcome, account }) => `${outcome} ${account}`),
  says: [
    told((rule, beside) => `Tell ${accountName(rule, beside)} of ${quoteValue(rule.outcome)}`),
    when(
      ({ platform }) => knownNames(platform).length > 0,
      ' as ',
      choice(
        'as',
        'The platform’s name for it',
        (_beside, rule): Option[] => [
          ...(rule?.as ? [] : [['', 'a name of its own'] as const]),
          ...(rule ? knownNames(rule.platform) : []).map((name): Option => [name, name]),
        ],
        { words: (name) => name },
      ),
    ),
    ' ',
    number('delayMinutes', 'Minutes until it is told', { unit: ['minute', 'minutes'] }),
    ' after it was reached, ',
    choice('letsItBid', 'What for', [
      [false, 'for the record'],
      [true, 'and let it bid on it'],
    ]),
    '. It is told ',
    choice('whose', 'Of which clicks', ({ platforms = [] }, rule): Option[] => [
      ['platform', rule ? `${usualOf(rule.platform, platforms)}, as is usual there` : 'as is usual there', 'as usual'],
      ['every click', clickWords['every click'], 'every click'],
      ['last paid touch', clickWords['last paid touch'], 'last paid touch'],
    ]),
    ', with ',
    number('percent', 'Percent of the worth'),
    ' % of the worth, where people agreed to ',
    choice('purpose', 'What people agreed to', [
      ['advertising', 'advertising'],
      ['measurement', 'measurement'],
    ]),
    '. The first ones ',
    choice('firstLook', 'The first ones', [
      [true, 'wait until somebody looked at them', 'wait for a look'],
      [false, 'go at once', 'go at once'],
    ]),
    '.',
  ],
  refs: ({ outcome, platform }) => [
    { kind: 'outcome', id: outcome },
    ...(isShipped(platform) ? [] : [{ kind: 'platform', id: platform }]),
  ],
  check({ platform, as }) {
    const known = knownNames(platform);
    if (known.length === 0 || known.includes(as)) return [];
    return [
      {
        field: 'as',
        was: as === '' ? 'the platform’s name for it is missing' : `${quoteValue(as)} is no name that it knows`,
        fix: `Choose ${listed(known.map(quoteValue), 'or')}.`,
      },
    ];
  },
});

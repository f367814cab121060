import { biddingTwice } from '../outcomes/counters';
import type { TellingRule } from '../outcomes/schema';
import type { OwnPlatform } from '../platforms/schema';
import { quoteValue } from '../quote-value';
import { listed } from '../listed';
import { isShipped, knownNames, linksOf, platformName } from '../platforms/links';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { partsOf, type Beside, type Option } from './says';

const { choice, number, value, told, when } = partsOf<TellingRule>();

const accountName = ({ account, platform }: TellingRule, { accounts = [], platforms = [] }: Beside): string =>
  accounts.find(({ key }) => key === account)?.name ?? platformName(platform, platforms);

const clickWords = {
  'every click': 'of every click within its time',
  'last paid touch': 'only of the last paid touch',
} as const;
const linkOf = (kind: string, own: readonly OwnPlatform[]) => linksOf(own).find((one) => one.kind === kind);
/** Which clicks a kind of platform is told of, in words. */
const usualOf = (kind: string, own: readonly OwnPlatform[]): string =>
  clickWords[linkOf(kind, own)?.tells ?? 'every click'];

const personKeyWords = {
  mail: 'it is told by the email address, hashed',
  telephone: 'it is told by the telephone number, hashed',
} as const;
const nobody = [
  ['tested', 'asked as a test, and nothing is counted there', 'as a test'],
  ['worked out', 'only worked out, and nobody is told', 'only worked out'],
] as const;

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
    when(
      ({ platform, secondKey }, { platforms = [] }) =>
        secondKey !== 'none' || (linkOf(platform, platforms)?.knowsPeopleBy ?? []).length > 0,
      '. Where no click was ever known, ',
      choice('secondKey', 'Where no click is known', ({ platforms = [] }, rule): Option[] => [
        ['none', 'nothing is told', 'nothing'],
        ...(rule ? (linkOf(rule.platform, platforms)?.knowsPeopleBy ?? []) : (['mail', 'telephone'] as const)).map(
          (key): Option => [key, personKeyWords[key], key === 'mail' ? 'email, hashed' : 'telephone, hashed'],
        ),
      ]),
    ),
    '. For now each is ',
    choice('how', 'How it is told', [['told', 'told', 'told'], ...nobody]),
    when(
      ({ from }) => from !== '',
      ' from ',
      value('from', 'From when on it is told', 'the start', { tidy: (text) => text.trim() }),
      ' on, and only worked out of what happened before',
    ),
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
  check(rule, content) {
    const { platform, as, how, secondKey, outcome } = rule;
    const { platforms } = content;
    const found: RuleProblem[] = [];
    const twice = biddingTwice(content, rule);
    if (twice.length > 0)
      found.push({
        field: 'letsItBid',
        was: `${platformName(platform, platforms)} may bid on ${listed([outcome, ...twice].map(quoteValue))}, which count the same`,
        fix: 'Let it bid on one of them, and tell the others for the record.',
      });
    const known = knownNames(platform);
    if (known.length > 0 && !known.includes(as))
      found.push({
        field: 'as',
        was: as === '' ? 'the platform’s name for it is missing' : `${quoteValue(as)} is no name that it knows`,
        fix: `Choose ${listed(known.map(quoteValue), 'or')}.`,
      });
    const link = linkOf(platform, platforms);
    if (how === 'tested' && !link?.takesTests)
      found.push({
        field: 'how',
        was: `${platformName(platform, platforms)} cannot be asked as a test`,
        fix: 'Let it be only worked out.',
      });
    if (secondKey !== 'none' && !link?.knowsPeopleBy?.includes(secondKey))
      found.push({
        field: 'secondKey',
        was: `${platformName(platform, platforms)} does not know people by their ${secondKey === 'mail' ? 'email address' : 'telephone number'}`,
        fix: 'Tell nothing where no click is known.',
      });
    return found;
  },
});

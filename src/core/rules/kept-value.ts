import { cookieNames } from '../capture/cookies';
import type { ValueRule } from '../capture/schema';
import { quoteValue } from '../quote-value';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';
import { isCarryName, isClickIdName, taken } from './taken';

const { choice, number, said, value } = partsOf<ValueRule>();

const usualCookie = (name: string) => `avx_${name.replace(/\W/g, '_')}`;

/** A query value of the business's own that is kept in a cookie of its own. */
export const keptValue = defineRule<ValueRule>({
  station: 'Capture',
  at: inList(['capture', 'keep', 'values'], ({ name }) => name),
  calls: (name) => `the kept value ${quoteValue(name)}`,
  says: [
    choice(
      'which',
      'Which one is kept',
      [
        ['last', 'The last'],
        ['first', 'The first'],
      ],
      { heading: 'Which' },
    ),
    ' ',
    value('name', 'Query value', 'query name', {
      isName: true,
      tidy: (text) => text.trim(),
      // A cookie that was not named by hand goes along.
      also: (name: string, { name: was, cookie }) =>
        cookie === '' || cookie === usualCookie(was) ? { cookie: usualCookie(name) } : {},
    }),
    ' is kept ',
    number('days', 'Days it is kept', { heading: 'Days', unit: ['day', 'days'] }),
    ' in the cookie ',
    value('cookie', 'Cookie', 'cookie', { tidy: (text) => text.trim() }),
    ', counted ',
    choice(
      'age',
      'Counted from',
      [
        ['renewed', 'anew from each visit'],
        ['fixed', 'from when it came'],
      ],
      { heading: 'Counted' },
    ),
    said(
      ({ lowerCase }) => lowerCase,
      ', ',
      choice('lowerCase', 'Letters', [
        [false, 'its letters as they arrive'],
        [true, 'in lower case'],
      ]),
    ),
    ': at most ',
    number('longest', 'Most characters', { heading: 'At most' }),
    ' of ',
    choice(
      'characters',
      'Expected characters',
      [
        ['any', 'any characters'],
        ['words', 'letters, digits and spaces'],
        ['digits', 'digits'],
      ],
      { heading: 'Of' },
    ),
    '.',
  ],
  start: () => ({
    name: '',
    cookie: '',
    days: 90,
    age: 'renewed',
    which: 'last',
    lowerCase: false,
    characters: 'any',
    longest: 200,
  }),
  check: ({ name, cookie }, { capture }) => [
    ...(isClickIdName(capture, name) || isCarryName(capture, name) ? [taken(name)] : []),
    ...(Object.values<string>(cookieNames).includes(cookie) ||
    capture.keep.values.some((other) => other.cookie === cookie && other.name !== name)
      ? [taken(cookie, 'cookie')]
      : []),
  ],
});

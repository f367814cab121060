import type { ReadFrom, ReadingRule } from '../events/schema';
import { readFrom } from '../events/kinds';
import { isUsual } from '../events/words';
import { quoteValue } from '../quote-value';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { partsOf, type Option } from './says';
import { swapPiece } from './swap-part';

const { choice, value, words, when, said } = partsOf<ReadingRule>();

const fromWords: Record<ReadFrom, string> = {
  query: 'the query value',
  cookie: 'the cookie',
  element: 'the element',
  pressed: 'what was pressed,',
  field: 'the form field',
  page: 'what the page says at',
  kept: 'the kept value',
  fixed: 'always',
};
const noName: Record<ReadFrom, string> = {
  query: 'a query name',
  cookie: 'a name',
  element: 'a selector',
  pressed: '',
  field: 'a field',
  page: '/order/total',
  kept: 'a name',
  fixed: 'a value',
};

/** A value that is taken from the page or the visit, for events and their conditions. */
export const reading = defineRule<ReadingRule>({
  station: 'Events',
  at: inList(['events', 'readings'], ({ id }) => id),
  calls: (id, { events }) => `the reading “${events.readings.find((one) => one.id === id)?.words ?? id}”`,
  says: [
    'Read ',
    words('words', 'What people call it', 'a name'),
    ', in short ',
    value('id', 'Short name', 'a_name', { isName: true, tidy: (text) => text.trim().toLowerCase() }),
    ', from ',
    choice(
      'from',
      'Where it comes from',
      readFrom.map((one): Option => [one, fromWords[one]]),
      { also: () => ({ name: '', attribute: '' }) },
    ),
    ...readFrom
      .filter((one) => one !== 'pressed')
      .map((one) =>
        when(
          ({ from }) => from === one,
          ' ',
          value('name', 'Its name there', noName[one], one === 'field' ? { offers: 'fields' } : {}),
        ),
      ),
    when(
      ({ from }) => from === 'element' || from === 'pressed',
      ' its ',
      value('attribute', 'Attribute', 'text', { tidy: (text) => text.trim().toLowerCase() }),
    ),
    ', as ',
    choice('as', 'As', [
      ['text', 'it is'],
      ['number', 'a number'],
      ['mail_hash', 'a hashed email address'],
    ]),
    when(
      ({ as }) => as === 'number',
      said(({ unit }) => unit !== '', ' of ', value('unit', 'Unit', 'no unit')),
    ),
    when(({ as }) => as !== 'mail_hash', swapPiece('and through no swap table')),
    '.',
  ],
  start: (_beside, names) => ({
    id: freeId(names),
    words: '',
    from: 'field',
    name: '',
    attribute: '',
    as: 'text',
    unit: '',
    swap: '',
  }),
  refs: ({ swap, from, name }) => [
    ...(swap ? [{ kind: 'swap', id: swap }] : []),
    ...(from === 'kept' ? [{ kind: 'kept_value', id: name }] : []),
  ],
  check({ id, from, name, as }) {
    const found: RuleProblem[] = [];
    if (isUsual(id))
      found.push({
        field: 'id',
        was: `${quoteValue(id)} is a reading that is always there`,
        fix: 'Choose another name.',
      });
    if (name === '' && from !== 'pressed')
      found.push({ field: 'name', was: `${fromWords[from]} has no name`, fix: `Type ${noName[from]}.` });
    if (as === 'mail_hash' && (from === 'kept' || from === 'fixed'))
      found.push({
        field: 'from',
        was: 'an email address is read from the page, where somebody typed it or it is shown',
        fix: 'Choose a form field, an element or what the page says.',
      });
    if (from === 'page' && name !== '' && !name.startsWith('/'))
      found.push({
        field: 'name',
        was: 'a place in what the page says begins with /',
        fix: `Write ${quoteValue(`/${name}`)}.`,
      });
    return found;
  },
});

function freeId(names: string[]): string {
  for (let n = names.length + 1; ; n++) if (!names.includes(`reading_${n}`)) return `reading_${n}`;
}

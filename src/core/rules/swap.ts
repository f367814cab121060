import { readingWords } from '../capture/readings';
import type { SwapTable } from '../capture/schema';
import { quoteValue } from '../quote-value';
import { defineRule } from './define';
import { inList } from './place';
import { partsOf } from './says';

const { words, told } = partsOf<SwapTable>();

/** What there is in place of a value, in words. */
const replacement = ({ gives, take }: SwapTable['otherwise']): string => {
  if (take === 'itself') return 'stays as it is';
  if (take === '') return gives === '' ? 'becomes nothing' : `becomes ${quoteValue(gives)}`;
  return `becomes ${readingWords[take]}${gives ? `, else ${quoteValue(gives)}` : ''}`;
};

/** A table that replaces values by others. */
export const swap = defineRule<SwapTable>({
  station: 'Capture',
  at: inList(['capture', 'swaps'], ({ name }) => name),
  calls: (name) => `the swap table “${name}”`,
  says: [
    'The table “',
    words('name', 'Name of the table', 'a name', { isName: true }),
    '”: ',
    told(({ rows }) => rows.map((row) => `${quoteValue(row.value)} ${replacement(row)}; `).join('')),
    told(({ otherwise }) => `everything else ${replacement(otherwise)}.`),
  ],
  start: () => ({ name: '', rows: [], otherwise: { gives: '', take: 'itself' } }),
  check({ rows }) {
    const twice = rows.find((row, at) =>
      rows.slice(0, at).some(({ value }) => value.toLowerCase() === row.value.toLowerCase()),
    );
    return twice
      ? [{ field: 'rows', was: `${quoteValue(twice.value)} is in two rows`, fix: 'Leave one of them.' }]
      : [];
  },
});

import { guessPlaces } from '../../guess-places';
import type { FiledHow } from './schema';

/** What a row of a file of conversions can say, by the heading of the open form. */
export const fileParts = ['click_id', 'outcome', 'happened_at', 'amount', 'currency', 'order_id', 'change'] as const;
export type FilePart = (typeof fileParts)[number];

export const filePartWords: Record<FilePart, string> = {
  click_id: 'Click ID',
  outcome: 'Outcome',
  happened_at: 'When it happened',
  amount: 'Amount',
  currency: 'Currency',
  order_id: 'Order number',
  change: 'What changed',
};

/** How the plain names of columns are usually written; the first column that fits is proposed. */
const usualNames: Record<FilePart, RegExp> = {
  click_id: /click(id|ref|key)|^click$/,
  outcome: /outcome|conversion$|^goal|^event(name)?$|^step$/,
  happened_at: /(happened|occurred|converted|closed|ordered|signed|won)(at|on|time|date)|^(time|date|when|at)$/,
  amount: /amount|value|worth|revenue|total|^sum$|profit/,
  currency: /currency|^cur$/,
  order_id: /order(id|number|no|ref)?$|transaction(id)?$|contract(id|number)?$|^number$|^no$|reference/,
  change: /change|adjustment|correction/,
};

/** Which column each part is likely to be. @param columns headings, in lower case */
export function guessColumns(columns: readonly string[]): FiledHow['columns'] {
  // Headings are read as the names at the end of a JSON Pointer.
  const pointers = columns.map((name) => `/${name.replaceAll('~', '~0').replaceAll('/', '~1')}`);
  const found = guessPlaces(usualNames, pointers);
  const taken = new Set<string>();
  return Object.fromEntries(
    fileParts.map((part) => {
      const column = columns.includes(part) ? part : (columns[pointers.indexOf(found[part])] ?? '');
      if (column === '' || taken.has(column)) return [part, ''];
      taken.add(column);
      return [part, column];
    }),
  ) as FiledHow['columns'];
}

/** How a file seems to be written, by its first rows; what they do not show is as is usual for the business. */
export function guessHow(
  columns: readonly string[],
  rows: readonly Record<string, string>[],
  usual: Pick<FiledHow, 'timeZone' | 'currency'>,
): FiledHow {
  const guessed = guessColumns(columns);
  const values = (part: FilePart) =>
    guessed[part] === '' ? [] : rows.map((cells) => cells[guessed[part]!] ?? '').filter((value) => value !== '');
  const comma = values('amount').some((amount) => /,\d{1,2}$/.test(amount));
  const point = values('amount').some((amount) => /\.\d{1,2}$/.test(amount));
  const isMonthFirst = values('happened_at').some((at) => Number(/^\d{1,2}[./](\d{1,2})[./]\d{4}/.exec(at)?.[1]) > 12);
  return {
    columns: guessed,
    timeZone: usual.timeZone,
    dates: isMonthFirst ? 'month first' : 'day first',
    decimals: comma && !point ? 'comma' : 'point',
    currency: usual.currency,
    says: '',
    platform: '',
    agreed: 'no',
    compares: '',
  };
}

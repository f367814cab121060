import {
  fieldFinders,
  keptCharacters,
  type CaptureRules,
  type FillRule,
  type Reading,
  type ValueRule,
} from './rules-schema';
import { characterWords, readingWords } from './sentences';

/* Rules as rows of a grid: every cell is a text, as a spreadsheet has it. */

export type Row = Record<string, string>;

/** A column of the grid; one with options holds one of them, by its value or by its words. */
export interface RuleColumn {
  key: string;
  heading: string;
  wide?: boolean;
  options?: readonly (readonly [value: string, words: string])[];
}

/** The option that a text means, whatever the letters' case; '' for none. */
const optionOf = ({ options = [] }: RuleColumn, text: string): string => {
  const plain = text.trim().toLowerCase();
  return options.find(([value, words]) => value.toLowerCase() === plain || words.toLowerCase() === plain)?.[0] ?? '';
};

/** Values that are written with commas between them. */
export const listOf = (text: string): string[] =>
  text
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);

const foundBy: Record<FillRule['find'], string> = {
  name: 'its name',
  id: 'its ID',
  label: 'its label',
  selector: 'a selector',
};

/** The columns of fill rules, with what there is to choose from. */
export function fillColumns({ keep, swaps }: Pick<CaptureRules, 'keep' | 'swaps'>): RuleColumn[] {
  return [
    { key: 'field', heading: 'Field' },
    { key: 'find', heading: 'Found by', options: fieldFinders.map((find) => [find, foundBy[find]]) },
    { key: 'forms', heading: 'Forms', wide: true },
    { key: 'pages', heading: 'Pages that begin with', wide: true },
    { key: 'reading', heading: 'Gets', wide: true, options: Object.entries(readingWords) },
    {
      ...{ key: 'platform', heading: 'Of' },
      options: [
        ['', '–'],
        ...keep.clickIds.map(({ platform }) => [platform, platform] as const),
        ...keep.values.map(({ name }) => [name, name] as const),
      ],
    },
    { key: 'swap', heading: 'Through', options: [['', '–'], ...swaps.map(({ name }) => [name, name] as const)] },
    {
      ...{ key: 'when', heading: 'When' },
      options: [
        ['always', 'always'],
        ['empty', 'only when empty'],
      ],
    },
    { key: 'otherwise', heading: 'Otherwise' },
  ];
}

export const fillToRow = ({ forms, pages, id: _, ...rule }: FillRule): Row => ({
  ...rule,
  forms: forms.join(', '),
  pages: pages.join(', '),
});

/** A fill rule from a row; what is wrong with it its schema says. */
export const rowToFill = (row: Row, id: string): FillRule => ({
  ...{ id, field: row.field ?? '', otherwise: row.otherwise ?? '' },
  find: (row.find || 'name') as FillRule['find'],
  forms: listOf(row.forms ?? ''),
  pages: listOf(row.pages ?? ''),
  reading: (row.reading || 'last_source') as Reading,
  platform: row.platform ?? '',
  swap: row.swap ?? '',
  when: (row.when || 'always') as FillRule['when'],
});

/** The columns of keep rules for the business's own query values. */
export const valueColumns: RuleColumn[] = [
  { key: 'name', heading: 'Query value' },
  { key: 'cookie', heading: 'Cookie' },
  { key: 'days', heading: 'Days' },
  {
    ...{ key: 'age', heading: 'Counted' },
    options: [
      ['renewed', 'anew from each visit'],
      ['fixed', 'from when it came'],
    ],
  },
  {
    ...{ key: 'which', heading: 'Which' },
    options: [
      ['first', 'the first'],
      ['last', 'the last'],
    ],
  },
  {
    ...{ key: 'lowerCase', heading: 'Letters' },
    options: [
      ['no', 'as they arrive'],
      ['yes', 'small'],
    ],
  },
  { key: 'characters', heading: 'Of', options: keptCharacters.map((kind) => [kind, characterWords[kind]]) },
  { key: 'longest', heading: 'At most' },
];

export const valueToRow = ({ days, longest, lowerCase, ...rule }: ValueRule): Row => ({
  ...rule,
  days: String(days),
  longest: String(longest),
  lowerCase: lowerCase ? 'yes' : 'no',
});

/** A keep rule from a row; without a cookie it gets one named after its value. */
export const rowToValue = (row: Row): ValueRule => ({
  name: row.name ?? '',
  cookie: row.cookie || `avx_${(row.name ?? '').replace(/\W/g, '_')}`,
  days: Number(row.days || 90),
  age: (row.age || 'renewed') as ValueRule['age'],
  which: (row.which || 'last') as ValueRule['which'],
  lowerCase: row.lowerCase === 'yes',
  characters: (row.characters || 'any') as ValueRule['characters'],
  longest: Number(row.longest || 200),
});

/**
 * Rows from cells that were copied out of a spreadsheet, each cell in its column, or where a first row of headings says.
 * A text that is none of a column's options is left out.
 */
export function rowsFromCells(columns: RuleColumn[], cells: string[][]): Row[] {
  const byHeading = (text: string) =>
    columns.find(({ key, heading }) => [key.toLowerCase(), heading.toLowerCase()].includes(text.trim().toLowerCase()));
  const [head = [], ...rest] = cells;
  const headed = head.length > 0 && head.every((text) => byHeading(text) !== undefined);
  const order = headed ? head.map((text) => byHeading(text)!) : columns;
  return (headed ? rest : cells).map((line) =>
    Object.fromEntries(
      line.slice(0, order.length).map((text, at) => {
        const column = order[at]!;
        return [column.key, column.options ? optionOf(column, text) : text.trim()];
      }),
    ),
  );
}

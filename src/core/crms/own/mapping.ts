import { escapeToken, pointerName } from '../../capture/pointer';
import { followedValues, valueWords } from '../../leads/values';
import type { RecordReading } from '../schema';

/** A line of an example as JSON is written: one value, or a beginning or end of what holds several. */
export interface ExampleLine {
  /** The place that the line is about (RFC 6901). */
  at: string;
  depth: number;
  /** The key with its colon; '' in a list. */
  key: string;
  /** What is written: a value as JSON, or a bracket. */
  text: string;
  /** The value as it is read; null where the line is a bracket. */
  value: string | null;
}

/** The most lines of an example that are shown. */
const mostLines = 300;

/** An example line by line, in its own order; what is beyond the first 300 lines is left out. */
export function linesOf(document: unknown): ExampleLine[] {
  const lines: ExampleLine[] = [];
  const walk = (node: unknown, at: string, depth: number, key: string): void => {
    if (lines.length >= mostLines) return;
    if (typeof node !== 'object' || node === null) {
      lines.push({ at, depth, key, text: JSON.stringify(node), value: node === null ? '' : String(node) });
      return;
    }
    const isList = Array.isArray(node);
    const inside = Object.entries(node);
    const [opens, closes] = isList ? ['[', ']'] : ['{', '}'];
    if (inside.length === 0) {
      lines.push({ at, depth, key, text: `${opens}${closes}`, value: null });
      return;
    }
    lines.push({ at, depth, key, text: opens, value: null });
    for (const [name, one] of inside)
      walk(one, `${at}/${escapeToken(name)}`, depth + 1, isList ? '' : `${JSON.stringify(name)}: `);
    lines.push({ at, depth, key: '', text: closes, value: null });
  };
  if (typeof document === 'object' && document !== null) walk(document, '', 0, '');
  return lines;
}

/** A value of an example, with its place. */
export interface Leaf {
  at: string;
  value: string;
}

/** Every value of an example that is a text, a number or a yes or no, in its order, each with its place (RFC 6901). */
export const leavesOf = (document: unknown): Leaf[] =>
  linesOf(document).flatMap(({ at, value }) => (value === null ? [] : [{ at, value }]));

/** Places in an example where records may be: lists of objects, and the whole of it. */
export function recordPlaces(document: unknown): string[] {
  const places = [''];
  const walk = (value: unknown, at: string, depth: number): void => {
    if (depth > 5 || typeof value !== 'object' || value === null) return;
    if (Array.isArray(value)) {
      if (typeof value[0] === 'object' && value[0] !== null) places.push(at);
      return;
    }
    for (const [key, one] of Object.entries(value)) walk(one, `${at}/${escapeToken(key)}`, depth + 1);
  };
  walk(document, '', 0);
  return [...new Set(places)];
}

const single = {
  number: 'the record’s number',
  person: 'the person’s number',
  personName: 'the person’s name',
  mail: 'the email',
  telephone: 'the telephone',
  company: 'the company',
  stage: 'the stage',
  madeAt: 'when it was made',
  changedAt: 'when it changed',
  currency: 'the currency',
} as const;
type Single = keyof typeof single;

/** Fields that rules know by these names. */
const knownFields: readonly string[] = ['lead_token', ...followedValues];

/** What a value of a record can be, each with its words; fields of a name of their own are what nothing else is. */
export const meanings: [meaning: string, words: string][] = [
  ...(Object.entries(single) as [Single, string][]),
  ['lead_token', 'the lead token'],
  ...followedValues.map((name): [string, string] => [name, `the ${valueWords[name]}`]),
  ['amount', 'an amount'],
  ['field', 'another field'],
];

/** What a place of a record means by a rule; '' where it is not read. */
export function meaningAt(reading: RecordReading, at: string): string {
  const part = (Object.keys(single) as Single[]).find((key) => reading[key] === at);
  if (part) return part;
  if (reading.amounts.some((one) => one.at === at)) return 'amount';
  const field = reading.fields.find((one) => one.at === at);
  if (!field) return '';
  return knownFields.includes(field.name) ? field.name : 'field';
}

/** A rule by which a place of a record means something else; what meant that before, where there can be one, means nothing. */
export function withMeaning(reading: RecordReading, at: string, meaning: string): RecordReading {
  const cleared = Object.fromEntries(
    (Object.keys(single) as Single[]).map((key) => [key, reading[key] === at ? '' : reading[key]]),
  ) as Pick<RecordReading, Single>;
  const base: RecordReading = {
    ...reading,
    ...cleared,
    amounts: reading.amounts.filter((one) => one.at !== at),
    fields: reading.fields.filter((one) => one.at !== at),
  };
  if (meaning === '') return base;
  if (meaning in single) return { ...base, [meaning]: at };
  const taken = new Set([...knownFields, ...[...base.amounts, ...base.fields].map(({ name }) => name)]);
  if (meaning === 'amount')
    return { ...base, amounts: [...base.amounts, { name: freeName(pointerName(at), taken), at }] };
  if (meaning === 'field') return { ...base, fields: [...base.fields, { name: freeName(pointerName(at), taken), at }] };
  return { ...base, fields: [...base.fields.filter(({ name }) => name !== meaning), { name: meaning, at }] };
}

function freeName(wanted: string, taken: ReadonlySet<string>): string {
  const name = wanted.slice(0, 56) || 'value';
  for (let n = 1; ; n++) {
    const one = n === 1 ? name : `${name}_${n}`;
    if (!taken.has(one)) return one;
  }
}

import { pointerName } from '../../capture/pointer';
import { followedValues, valueWords } from '../../leads/values';
import type { RecordReading } from '../schema';

/** A value in an example, with its place. */
export interface Leaf {
  at: string;
  /** How deep it is, for showing. */
  depth: number;
  value: string;
}

const escapeToken = (key: string): string => key.replace(/~/g, '~0').replace(/\//g, '~1');

/** The most values of an example that are shown. */
const mostLeaves = 200;

/** Every value of an example that is a text, a number or a yes or no, in its order, each with its place (RFC 6901). */
export function leavesOf(document: unknown): Leaf[] {
  const leaves: Leaf[] = [];
  const walk = (value: unknown, at: string, depth: number): void => {
    if (leaves.length >= mostLeaves) return;
    if (typeof value === 'object' && value !== null) {
      for (const [key, one] of Object.entries(value)) walk(one, `${at}/${escapeToken(key)}`, depth + 1);
      return;
    }
    if (at !== '') leaves.push({ at, depth, value: value === null ? '' : String(value) });
  };
  walk(document, '', 0);
  return leaves;
}

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

import { pointerName } from '../../capture/pointer';
import { followedValues } from '../../leads/values';
import type { RecordReading } from '../schema';
import { leavesOf, meaningAt, withMeaning, type Leaf } from './mapping';

/** What the names and values of a record usually mean, in the order in which they are looked for. */
const usual: [meaning: string, isMeant: (name: string, leaf: Leaf, within: string) => boolean][] = [
  ['lead_token', (name) => name === 'avxlead' || name === 'leadtoken'],
  ...followedValues.map((value): (typeof usual)[number] => [
    value,
    (name) => name === plain(value) || name === `utm${plain(value)}`,
  ]),
  ['mail', (_, { value }) => /^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(value)],
  ['telephone', (name) => /^(tele)?phone|^tel$|^mobile/.test(name)],
  ['stage', (name) => /^(deal)?(stage|status|phase)$/.test(name)],
  ['changedAt', (name, leaf) => /^(last)?(updated|modified|changed)/.test(name) && isInstant(leaf)],
  ['madeAt', (name, leaf) => /^(created|made|added)/.test(name) && isInstant(leaf)],
  ['currency', (name, { value }) => /currency/.test(name) && /^[A-Za-z]{3}$/.test(value)],
  ['amount', (name, { value }) => /^(deal)?(value|amount|sum|total|price)$/.test(name) && /\d/.test(value)],
  [
    'company',
    (name, _, within) =>
      /^(company|firm|organisation|organization)(name)?$/.test(name) || isNamed(name, within, /compan|firm|organi/),
  ],
  [
    'personName',
    (name, _, within) =>
      /^(person|contact|full)name$/.test(name) || isNamed(name, within, /contact|person|people|customer/),
  ],
  [
    'person',
    (name, _, within) =>
      /^(person|contact|customer)(id|number|no)$/.test(name) ||
      (isNumber(name) && /contact|person|customer/.test(within)),
  ],
  [
    'number',
    (name, _, within) =>
      /^(record|deal)(id|number|no)$/.test(name) ||
      (isNumber(name) && !/contact|person|customer|compan|firm|organi|owner|user/.test(within)),
  ],
];

/** A name without what separates its words. */
const plain = (name: string): string => name.toLowerCase().replace(/[^a-z0-9]/g, '');
const isNumber = (name: string): boolean => /^(id|number|no|ref|reference)$/.test(name);
const isNamed = (name: string, within: string, what: RegExp): boolean => name === 'name' && what.test(within);
const isInstant = ({ value }: Leaf): boolean => /^\d{4}-\d\d-\d\d/.test(value) || /^\d{9,13}$/.test(value);

/**
 * A rule with what the names of an example's values tell: each meaning that is not said yet goes to the first value that
 * looks like it, and what somebody said stays. It is a proposal, for a person to take.
 */
export function guessReading(reading: RecordReading, example: unknown): RecordReading {
  let guessed = reading;
  const leaves = leavesOf(example);
  const said = new Set(leaves.map(({ at }) => meaningAt(reading, at)));
  for (const [meaning, isMeant] of usual) {
    if (said.has(meaning)) continue;
    const leaf = leaves.find((one) => {
      const within = plain(one.at.slice(0, one.at.lastIndexOf('/')));
      return one.value !== '' && meaningAt(guessed, one.at) === '' && isMeant(plain(pointerName(one.at)), one, within);
    });
    if (leaf) guessed = withMeaning(guessed, leaf.at, meaning);
  }
  return guessed;
}

/** How many values of an example two rules read differently. */
export const readDifferently = (one: RecordReading, other: RecordReading, example: unknown): number =>
  leavesOf(example).filter(({ at }) => meaningAt(one, at) !== meaningAt(other, at)).length;

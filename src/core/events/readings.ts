import { queryValue, type SplitAddress } from '../capture/address';
import { readOf } from '../capture/fill';
import type { SwapTable, Kept, Reading } from '../capture';
import { swapValue } from '../capture/swap';
import { readNumber } from './numbers';
import { attributeOf } from './press';
import type { Moment } from './judge';
import type { ReadingRule } from './schema';

/** Readings that are there without a rule: what every page and every press says of itself. */
export const pageReadings = [
  'path',
  'address',
  'host',
  'came_from',
  'came_from_host',
  'press_text',
  'press_link',
  'form',
  'order_number',
] as const;
export type PageReading = (typeof pageReadings)[number];

/** The longest value that is taken along. */
export const longestValue = 200;

/** Where readings are taken from. What is missing was not recorded. */
export interface Sources {
  moment: Omit<Moment, 'read'>;
  /** The referrer's parts; null without one. */
  from: SplitAddress | null;
  kept: Kept;
  swaps: readonly SwapTable[];
  cookie?: (name: string) => string;
  /** Text (attribute '') or attribute of the first element that a selector meets, on the page. */
  element?: (selector: string, attribute: string) => string;
  /** An attribute of what was pressed. */
  attribute?: (name: string) => string;
  /** A field of the form that was sent. */
  field?: (name: string) => string;
  /** What the page says at a JSON Pointer. */
  page?: (pointer: string) => string;
  /** An email address by its hash, where it may be read; missing where it never is. */
  hash?: ((id: string, mail: string) => string) | undefined;
}

const ofPage: Record<PageReading, (sources: Sources) => string> = {
  path: ({ moment }) => moment.page?.path ?? '',
  address: ({ moment }) => moment.address.split('#')[0]!,
  host: ({ moment }) => moment.page?.host ?? '',
  came_from: ({ from }) => (from ? from.host + from.path : ''),
  came_from_host: ({ from }) => from?.host ?? '',
  press_text: ({ moment }) => moment.press?.text ?? '',
  press_link: ({ moment }) => moment.press?.link ?? '',
  form: ({ moment }) => moment.form ?? '',
  order_number: ({ moment }) => moment.order ?? '',
};

function readRule({ from, name, attribute }: ReadingRule, sources: Sources): string | null {
  const { moment, kept } = sources;
  switch (from) {
    case 'query':
      return moment.page ? queryValue(moment.page, name) : '';
    case 'kept':
      return readOf('kept_value', name, kept);
    case 'fixed':
      return name;
    case 'pressed':
      if (attribute === '') return moment.press?.text ?? '';
      return sources.attribute?.(attribute) ?? (moment.press ? attributeOf(moment.press, attribute) : '');
    case 'element':
      return sources.element?.(name, attribute) ?? null;
    default:
      // A form's field is empty wherever no form was sent.
      if (from === 'field' && moment.kind !== 'sent') return '';
      return sources[from]?.(name) ?? null;
  }
}

/**
 * The value of a reading: one of the page, one of what the browser keeps (by the names that fill rules have), or one of the
 * business's own. '' where there is none, null where it was not recorded.
 */
export function readValueOf(id: string, rules: readonly ReadingRule[], sources: Sources): string | null {
  if (id in ofPage) return ofPage[id as PageReading](sources);
  const rule = rules.find((one) => one.id === id);
  if (!rule) return readOf(id as Reading, '', sources.kept);
  const read = readRule(rule, sources);
  if (read === null) return null;
  if (rule.as === 'mail_hash') return sources.hash?.(id, read) ?? '';
  const table = rule.swap ? sources.swaps.find(({ name }) => name === rule.swap) : undefined;
  const value = table ? swapValue(table, read, (other) => readOf(other, '', sources.kept)) : read;
  if (rule.as === 'number') return String(readNumber(value) ?? '');
  return value.trim().slice(0, longestValue);
}

import type { ArrivedHit, EventHit } from '../capture/schema';
import { splitAddress } from '../capture/address';
import { isCurrency } from '../outcomes/worth';
import { passes } from '../events/compare';
import type { Test } from '../events/kinds';
import { withNames, type NameThere } from '../events/named-there';
import { conversionIdOf } from './ids';
import type { DerivedTouch, VisitorRules } from './visitor';
import { broughtToBuy, type BroughtClick, type DerivedOrder } from './visitor-orders';

/** Something on the website that an outcome is reached by, under a release. `each`: every time counts, not the first of a click. */
export type ConversionRule =
  | { kind: 'event'; event: string; each: boolean; names: NameThere[] }
  | { kind: 'page'; test: Test; text: string; each: boolean };

/** Something that somebody did on the website and that an outcome may be reached by. */
export interface DerivedConversion extends Omit<DerivedOrder, 'number' | 'currency' | 'amounts' | 'sameAs'> {
  kind: 'event' | 'page';
  /** The event's name, or the path of the page. */
  name: string;
  /** What the event took along, by the readings' IDs. */
  fields: Record<string, string>;
  /** Those of them that are amounts of money: numbers whose unit is a currency. */
  amounts: { name: string; amount: string; currency: string }[];
}

/**
 * What an event or an arrival is as a conversion; null where no outcome of its release is reached by it, or where the same
 * was taken already for the same clicks and counts once for them.
 *
 * @param before what this browser converted by before
 */
export function takeConversion(
  business: string,
  hit: EventHit | ArrivedHit,
  at: number,
  visitNumber: number,
  clicks: BroughtClick[],
  touches: DerivedTouch[],
  rules: VisitorRules,
  before: readonly DerivedConversion[],
): Omit<DerivedConversion, 'marked' | 'consent'> | null {
  const what = hit.kind === 'event' ? ofEvent(hit, rules) : ofPage(hit, rules);
  if (!what) return null;
  const { each, ...converted } = what;
  const brought = broughtToBuy(business, clicks, touches, rules);
  const same = (one: DerivedConversion) =>
    one.kind === converted.kind &&
    one.name === converted.name &&
    JSON.stringify([one.fields, one.strands]) === JSON.stringify([converted.fields, brought.strands]);
  if (!each && before.some(same)) return null;
  return {
    ...converted,
    id: conversionIdOf(`${converted.kind} ${converted.name}`, hit.id),
    hit: hit.id,
    page: hit.address,
    at,
    visitNumber,
    release: hit.release,
    ...brought,
  };
}

type Converted = Pick<DerivedConversion, 'kind' | 'name' | 'fields' | 'amounts'> & { each: boolean };

/** The same as it is stored, also of what a file says. */
export interface StoredConversion extends Omit<DerivedConversion, 'kind'> {
  kind: DerivedConversion['kind'] | 'file';
}

function ofEvent({ event, reads }: EventHit, { conversions, units }: VisitorRules): Converted | null {
  const by = conversions.filter((rule) => rule.kind === 'event' && rule.event === event);
  if (by.length === 0) return null;
  return {
    kind: 'event',
    name: event,
    fields: withNames(
      reads,
      by.flatMap((rule) => (rule.kind === 'event' ? rule.names : [])),
    ),
    amounts: reads.flatMap(({ reading, value }) => {
      const unit = Object.hasOwn(units, reading) ? units[reading]! : '';
      return isCurrency(unit) ? [{ name: reading, amount: value, currency: unit }] : [];
    }),
    each: by.some((rule) => rule.each),
  };
}

function ofPage({ address }: ArrivedHit, { conversions }: VisitorRules): Converted | null {
  const path = splitAddress(address)?.path;
  if (path === undefined) return null;
  const by = conversions.filter((rule) => rule.kind === 'page' && passes(rule.test, path, rule.text));
  if (by.length === 0) return null;
  return { kind: 'page', name: path, fields: {}, amounts: [], each: by.some((rule) => rule.each) };
}

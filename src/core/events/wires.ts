import type { Cleaning, DestinationFace } from '../destinations/contract';
import { cleanValue } from './clean-value';
import type { EventRow } from '../destinations';
import type { Consent, EventHit } from '../capture/schema';
import { freshWireName } from './words';
import type { EventRule, WireRule } from './schema';

/** The readings that pages take along for an event: its own, and those that its wires need. */
export function readsWithWires(rule: EventRule, wires: readonly WireRule[]): string[] {
  const own = wires.filter(({ event }) => event === rule.name);
  const needed = own.flatMap(({ named, fields }) => [
    ...named.flatMap(({ reading }) => reading || []),
    ...fields.map(({ reading }) => reading),
  ]);
  return [...new Set([...rule.reads, ...needed])];
}

/** Who tells of a wire's event: the server, the page, or both; what is only worked out the server works out. */
export const tellersOf = ({ by, how }: Pick<WireRule, 'by' | 'how'>): readonly ('server' | 'page')[] =>
  how === 'worked out' ? ['server'] : by === 'both' ? ['server', 'page'] : [by];

/** An event's name at a destination, put together as its wire says. */
export const wireName = (
  named: WireRule['named'],
  cleaning: Cleaning | null,
  valueOf: (reading: string) => string,
): string =>
  named
    .map(({ text, reading }) => (reading ? (cleaning ? cleanValue(valueOf(reading), cleaning) : '') : text))
    .join('');

/** The fields that go with an event, without those that are empty. */
export const wireFields = (
  fields: WireRule['fields'],
  valueOf: (reading: string) => string,
): (readonly [name: string, value: string])[] =>
  fields.map(({ name, reading }) => [name, valueOf(reading)] as const).filter(([, value]) => value !== '');

/** The value of a reading that an event took along; '' where it did not. */
export const valueIn =
  (reads: EventHit['reads']) =>
  (id: string): string =>
    reads.find(({ reading }) => reading === id)?.value ?? '';

/** An event as a wire tells it. @param clickId '' where the destination knows no clicks, or none is known */
export function wireRow(
  wire: WireRule,
  event: { eventId: string; happenedAt: number; readings: EventHit['reads'] },
  { named }: Pick<DestinationFace, 'named'>,
  clickId: string,
): EventRow {
  const valueOf = valueIn(event.readings);
  return {
    eventId: event.eventId,
    name: wireName(wire.named, named.cleaning, valueOf),
    happenedAt: event.happenedAt,
    fields: wireFields(wire.fields, valueOf),
    clickId,
  };
}

/** What a wire's name is while it is written, with each reading shown by an example of its place. */
export const sampleName = ({ named }: WireRule, face: Pick<DestinationFace, 'named'>): string =>
  wireName(named, face.named.cleaning, (reading) => reading);

/** Whether somebody agreed to what a wire is for; where a business does not ask, only a “no” says no. */
export const mayWire = (
  { purpose }: Pick<WireRule, 'purpose'>,
  consent: Pick<Consent, 'measurement' | 'advertising'> | null,
  required: boolean,
): boolean => (required ? consent?.[purpose] === 'yes' : consent?.[purpose] !== 'no');

/** A new wire of an event to an account. */
export function freshWire(event: EventRule, account: string, face: DestinationFace): WireRule {
  const { named, fields, fieldProblem, toldOf } = face;
  const name = named.known?.[0] ?? cleanValue(freshWireName(event.name), named.cleaning ?? plain);
  return {
    event: event.name,
    account,
    kind: face.kind,
    named: [{ text: name, reading: '' }],
    fields: event.reads
      .map((reading) => ({ name: fieldName(reading), reading }))
      .filter(({ name: field }) => fields.length === 0 && fieldProblem(field) === ''),
    by: 'server',
    // A platform learns by it which of its clicks were worth something.
    purpose: toldOf === 'every event' ? 'measurement' : 'advertising',
    how: 'told',
    from: '',
  };
}

const plain: Cleaning = { stays: 'A-Za-z0-9', lowerCase: false, joins: '-', longest: 40, otherwise: 'event' };

/** A field's usual name, from the reading that it holds. */
export const fieldName = (reading: string): string => reading.replace(/^last_/, '').slice(0, 30);

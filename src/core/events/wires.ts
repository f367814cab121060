import type { DestinationContract, EventRow } from '../destinations';
import type { Consent } from '../capture/schema';
import type { EventHit } from '../capture/schema';
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

/** An event as a wire tells it. */
export function wireRow(
  wire: WireRule,
  event: { eventId: string; name: string; happenedAt: number; readings: EventHit['reads'] },
  { named }: Pick<DestinationContract, 'named'>,
): EventRow {
  const valueOf = (id: string) => event.readings.find(({ reading }) => reading === id)?.value ?? '';
  return {
    eventId: event.eventId,
    name: wire.named.map(({ text, reading }) => (reading ? named.clean(valueOf(reading)) : text)).join(''),
    happenedAt: event.happenedAt,
    fields: wire.fields.flatMap(({ name, reading }) => {
      const value = valueOf(reading);
      return value === '' ? [] : [[name, value] as const];
    }),
  };
}

/** What a wire's name is while it is written, with each reading shown by an example of its place. */
export const sampleName = ({ named }: WireRule, contract: DestinationContract): string =>
  named.map(({ text, reading }) => (reading ? contract.named.clean(reading) : text)).join('');

/** Whether somebody agreed to what a wire is for; where a business does not ask, only a “no” says no. */
export const mayWire = (
  { purpose }: Pick<WireRule, 'purpose'>,
  consent: Pick<Consent, 'measurement' | 'advertising'> | null,
  required: boolean,
): boolean => (required ? consent?.[purpose] === 'yes' : consent?.[purpose] !== 'no');

/** A new wire of an event to an account. */
export const freshWire = (event: EventRule, account: string, kind: string): WireRule => ({
  event: event.name,
  account,
  kind,
  named: [{ text: freshWireName(event.name), reading: '' }],
  fields: event.reads.map((reading) => ({ name: reading.replace(/^last_/, '').slice(0, 30), reading })),
  purpose: 'measurement',
});

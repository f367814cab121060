import type { Cleaning } from '../destinations/contract';
import { faceOf } from '../destinations/faces';
import type { EventHit } from '../capture/schema';
import type { OwnPlatform } from '../platforms/schema';
import type { WireRule } from './schema';
import { nameReading } from './name-reading';
import { valueIn, wireName } from './wires';

/** How an event is named at an account, as a reading of the event. */
export interface NameThere {
  reading: string;
  named: WireRule['named'];
  cleaning: Cleaning | null;
}

/** The readings that an event's names are, one for each wire of it. */
export const namesThere = (event: string, wires: readonly WireRule[], own: readonly OwnPlatform[]): NameThere[] =>
  wires
    .filter((wire) => wire.event === event)
    .flatMap(({ account, kind, named }) => {
      const face = faceOf(kind, own);
      return face ? [{ reading: nameReading(account), named, cleaning: face.named.cleaning }] : [];
    });

/**
 * What an event took along, with its names: each is put together as the wire tells it, so what an outcome is reached by is
 * named as the account names it.
 */
export const withNames = (reads: EventHit['reads'], names: readonly NameThere[]): Record<string, string> =>
  Object.fromEntries([
    ...reads.map(({ reading, value }) => [reading, value]),
    ...names.map(({ reading, named, cleaning }) => [reading, wireName(named, cleaning, valueIn(reads))]),
  ]) as Record<string, string>;

import type { EventHit } from '../capture/schema';
import { eventIdOf } from '../events/event-id';
import { eventRowId } from './ids';
import type { KnownConsent, Mark } from './types';

/** An event that went off, once for its key. */
export interface DerivedEvent {
  id: string;
  /** Under which destinations know it: its name and its key. */
  eventId: string;
  name: string;
  hit: string;
  visit: string;
  /** The touch in force; null where none is known. */
  touch: string | null;
  page: string;
  /** ms, when it first went off. */
  at: number;
  release: number;
  cue: number;
  /** What it took along. */
  readings: EventHit['reads'];
  /** Accounts that it is told to. */
  accounts: readonly string[];
  marked: Mark;
  consent: KnownConsent | null;
}

/** An event as a page told it; null where its release has none of that name. */
export function takeEvent(
  business: string,
  hit: EventHit,
  at: number,
  visit: string,
  touch: string | null,
  accountsOf: Readonly<Record<string, readonly string[]>>,
): Omit<DerivedEvent, 'marked' | 'consent'> | null {
  const accounts = Object.hasOwn(accountsOf, hit.event) ? accountsOf[hit.event] : undefined;
  if (!accounts) return null;
  const eventId = eventIdOf(hit.event, hit.key);
  return {
    id: eventRowId(business, eventId),
    eventId,
    name: hit.event,
    hit: hit.id,
    visit,
    touch,
    page: hit.address,
    at,
    release: hit.release,
    cue: hit.cue,
    readings: hit.reads,
    accounts,
  };
}

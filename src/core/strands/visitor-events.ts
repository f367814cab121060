import type { EventHit, HandedHit } from '../capture/schema';
import { eventIdOf } from '../events/event-id';
import { eventRowId } from './ids';
import type { KnownConsent, Mark } from './types';
import type { DerivedTouch, VisitorRules } from './visitor';
import { lastPaidTouch, type BroughtClick } from './visitor-orders';

/** An account that an event is told to. */
export interface EventAccount {
  account: string;
  by: 'server' | 'page';
  /** The platform whose click the visitor must have brought; '' where that does not matter. */
  clicksOf: string;
  /** Whether that click must be the visitor's last paid touch too. */
  paidLast: boolean;
}

/** What one account is told of one event. */
export interface DerivedTelling extends Pick<EventAccount, 'account' | 'by'> {
  /** The click that it is told by; '' where the account knows no clicks. */
  clickId: string;
  /** What became of it on the page, and when (ms); null before the page said so, and where a server tells it. */
  handed: { how: HandedHit['how']; at: number } | null;
}

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
  tellings: DerivedTelling[];
  marked: Mark;
  consent: KnownConsent | null;
}

/**
 * An event as a page told it; null where its release has none of that name.
 *
 * @param clicks every click ID that this browser brought before, the oldest first
 * @param touches its touches before, the oldest first
 */
export function takeEvent(
  business: string,
  hit: EventHit,
  at: number,
  visit: { id: string; touch: string | null },
  clicks: readonly BroughtClick[],
  touches: DerivedTouch[],
  rules: VisitorRules,
): Omit<DerivedEvent, 'marked' | 'consent'> | null {
  const accounts = Object.hasOwn(rules.eventAccounts, hit.event) ? rules.eventAccounts[hit.event] : undefined;
  if (!accounts) return null;
  const eventId = eventIdOf(hit.event, hit.key);
  const paid = accounts.some(({ paidLast }) => paidLast) ? lastPaidTouch(touches, rules)?.platform : undefined;
  const tellings = accounts.flatMap(({ account, by, clicksOf, paidLast }): DerivedTelling[] => {
    const clickId = clicks.findLast(({ platform }) => platform === clicksOf)?.clickId ?? '';
    const isTold = clicksOf === '' || (clickId !== '' && (!paidLast || paid === clicksOf));
    return isTold ? [{ account, by, clickId, handed: null }] : [];
  });
  return {
    id: eventRowId(business, eventId),
    eventId,
    name: hit.event,
    hit: hit.id,
    visit: visit.id,
    touch: visit.touch,
    page: hit.address,
    at,
    release: hit.release,
    cue: hit.cue,
    readings: hit.reads,
    tellings,
  };
}

/** Notes what became of an event that a page told a destination. */
export function takeHanded(
  events: readonly Pick<DerivedEvent, 'eventId' | 'tellings'>[],
  hit: HandedHit,
  at: number,
): void {
  const eventId = eventIdOf(hit.event, hit.key);
  const told = events.find((event) => event.eventId === eventId)?.tellings;
  const telling = told?.find(({ account, by }) => by === 'page' && account === hit.account);
  if (telling && telling.handed?.how !== 'told') telling.handed = { how: hit.how, at };
}

import { defineTable, type RowOf, json, text, time, uuid, whole } from '../db/columns';
import type { Pointed } from '../../core/events/pointing';
import type { TellingState } from '../../core/events/telling-states';
import type { EventRow } from '../../core/destinations';
import type { DerivedEvent, KnownConsent, Mark } from '../../core/strands';

/** Events that went off on pages, each once for its key. */
export const events = defineTable('events', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  eventId: text(),
  name: text(),
  visitorId: uuid(),
  visitId: uuid(),
  touchId: uuid().nullable(),
  hitId: uuid(),
  page: text(),
  at: time(),
  cue: whole(),
  readings: json<DerivedEvent['readings']>(),
  marked: text<Mark>(),
  consent: json<KnownConsent>().nullable(),
  releaseNumber: whole(),
});

/** Events told to destinations: each once for its account. */
export const eventTellings = defineTable('event_tellings', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  eventRowId: uuid(),
  event: text(),
  /** By its key, as the wire names it. */
  account: text(),
  /** Who tells it. */
  toldBy: text<'server' | 'page'>(),
  /** The click that it is told by; '' where the account knows no clicks. */
  clickId: text(),
  /** `unsure`: it may have been counted, and nobody knows. */
  state: text<TellingState>(),
  /** Why it is held, refused or not told yet; '' where there is nothing to say. */
  reason: text(),
  happenedAt: time(),
  madeAt: time(),
  toldAt: time().nullable(),
  tries: whole(),
  /** As it was sent last. */
  sent: json<EventRow>().nullable(),
});
export type EventTellingRow = RowOf<typeof eventTellings>;

/** Tabs in which somebody points at what is to count. */
export const pointings = defineTable('pointings', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  personId: uuid(),
  /** What the link begins it with, hashed; '' once it did. */
  token: text(),
  /** What the tab proves itself by, hashed; '' before it began. */
  tab: text(),
  madeAt: time(),
  endsAt: time(),
  chosen: json<Pointed>().nullable(),
});
export type PointingRow = RowOf<typeof pointings>;

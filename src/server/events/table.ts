import { defineTable, json, text, time, uuid, whole } from '../db/columns';
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

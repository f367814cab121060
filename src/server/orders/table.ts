import { defineTable, type RowOf, json, text, time, uuid, whole } from '../db/columns';
import type { DerivedOrder, KnownConsent, Mark } from '../../core/strands';

/** Orders that pages said, each once by its number. */
export const orders = defineTable('orders', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  number: text(),
  visitorId: uuid(),
  hitId: uuid(),
  page: text(),
  at: time(),
  visitNumber: whole(),
  currency: text(),
  amounts: json<DerivedOrder['amounts']>(),
  /** The number of the earlier order that it is probably the same as; '' for none. */
  sameAs: text(),
  /** The clicks it may be counted for, the newest first; see core/strands/visitor-orders. */
  strands: json<string[]>(),
  lastPaid: uuid().nullable(),
  marked: text<Mark>(),
  consent: json<KnownConsent>().nullable(),
  releaseNumber: whole(),
});
export type OrderRow = RowOf<typeof orders>;

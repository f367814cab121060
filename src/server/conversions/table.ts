import { defineTable, type RowOf, json, text, time, uuid, whole } from '../db/columns';
import type { KnownConsent, Mark, StoredConversion } from '../../core/strands';

/** What somebody did on the website, or a file says happened, that outcomes are reached by. */
export const conversions = defineTable('conversions', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  kind: text<StoredConversion['kind']>(),
  /** The event's name, the path of the page, or what a row of a file calls the outcome. */
  name: text(),
  /** What it took along, by name; and which of it are amounts of money. */
  fields: json<StoredConversion['fields']>(),
  amounts: json<StoredConversion['amounts']>(),
  visitorId: uuid(),
  hitId: uuid(),
  page: text(),
  at: time(),
  visitNumber: whole(),
  /** The clicks it may be counted for, the newest first; see core/strands/visitor-orders. */
  strands: json<string[]>(),
  lastPaid: uuid().nullable(),
  marked: text<Mark>(),
  consent: json<KnownConsent>().nullable(),
  releaseNumber: whole(),
  /** Of a row of a file: the order that it names ('' for none), when its file was taken, and when it was taken back. */
  orderId: text(),
  ruledAt: time().nullable(),
  takenBackAt: time().nullable(),
});
export type ConversionRow = RowOf<typeof conversions>;

import { defineTable, type RowOf, json, text, time, uuid, whole } from '../db/columns';
import type { DerivedConversion, KnownConsent, Mark } from '../../core/strands';

/** What somebody did on the website that outcomes are reached by. */
export const conversions = defineTable('conversions', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  kind: text<DerivedConversion['kind']>(),
  /** The event's name, or the path of the page. */
  name: text(),
  /** What it took along, by name; and which of it are amounts of money. */
  fields: json<DerivedConversion['fields']>(),
  amounts: json<DerivedConversion['amounts']>(),
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
});
export type ConversionRow = RowOf<typeof conversions>;

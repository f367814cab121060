import { defineTable, type RowOf, text, time, uuid, whole } from '../db/columns';

export const businesses = defineTable('businesses', ['id'], {
  id: uuid(),
  key: text(),
  name: text(),
  timeZone: text(),
  currency: text(),
  createdAt: time(),
});
export type BusinessRow = RowOf<typeof businesses>;

export const websites = defineTable('websites', ['businessId', 'host'], {
  businessId: uuid(),
  host: text(),
  registrable: text(),
  /** Its place among the business's websites; the first one is meant where one has to be. */
  place: whole(),
});
export type WebsiteRow = RowOf<typeof websites>;

import { defineTable, type RowOf, day, json, text, time, uuid, whole, yes } from '../db/columns';
import type { ShortLinkWins } from '../../core/links/open';
import type { PageCheckResult } from '../../core/links/page-check';
import type { UsedIn } from '../../core/links/uses';

export const links = defineTable('links', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  /** The address without its tags. */
  landing: text(),
  tags: json<Record<string, string>>(),
  url: text(),
  urlHash: text(),
  campaign: text(),
  usedIn: text<UsedIn>(),
  place: text(),
  owner: text(),
  madeAt: time(),
  changedAt: time(),
  retiredAt: time().nullable(),
});
export type LinkRow = RowOf<typeof links>;

/** One find and replace over many links, so that it can be taken back. */
export const linkChanges = defineTable('link_changes', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  find: text(),
  put: text(),
  links: json<{ id: string; before: string; after: string }[]>(),
  changedBy: uuid(),
  changedAt: time(),
  undoneAt: time().nullable(),
});
export type LinkChangeRow = RowOf<typeof linkChanges>;

export const tagSets = defineTable('tag_sets', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  name: text(),
  tags: json<Record<string, string[]>>(),
  usedIn: text<UsedIn>(),
  changedAt: time(),
  retiredAt: time().nullable(),
});
export type TagSetRow = RowOf<typeof tagSets>;

/** The columns that a platform's upload of links fix, in its order. */
export const columnOrders = defineTable('column_orders', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  name: text(),
  columnsWanted: json<string[]>(),
});
export type ColumnOrderRow = RowOf<typeof columnOrders>;

export const shortLinks = defineTable('short_links', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  path: text(),
  /** Where it is handed out; '' under the usual host. */
  host: text(),
  destination: text(),
  wins: text<ShortLinkWins>(),
  status: whole(),
  passwordHash: text().nullable(),
  expiresAt: time().nullable(),
  madeAt: time(),
  changedAt: time(),
  retiredAt: time().nullable(),
  /** When it was last written, by the database's clock. */
  stamp: time(),
});
export type ShortLinkRow = RowOf<typeof shortLinks>;

export const shortLinkDestinations = defineTable('short_link_destinations', ['businessId', 'shortLinkId', 'since'], {
  businessId: uuid(),
  shortLinkId: uuid(),
  since: time(),
  destination: text(),
  changedBy: uuid().nullable(),
});
export type ShortLinkDestinationRow = RowOf<typeof shortLinkDestinations>;

export const shortClicks = defineTable('short_clicks', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  shortLinkId: uuid(),
  at: time(),
  /** Day of the business. */
  day: day(),
  bot: yes(),
  source: text(),
  medium: text(),
  campaign: text(),
  content: text(),
  /** Host and path, without its query. */
  referrer: text(),
});
export type ShortClickRow = RowOf<typeof shortClicks>;

export const pageChecks = defineTable('page_checks', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  url: text(),
  urlHash: text(),
  state: text<'waiting' | 'good' | 'bad'>(),
  result: json<PageCheckResult>().nullable(),
  askedAt: time(),
  checkedAt: time().nullable(),
});
export type PageCheckRow = RowOf<typeof pageChecks>;

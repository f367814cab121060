import { defineTable, type RowOf, bytes, day, json, text, time, uuid, whole } from '../db/columns';

export const accounts = defineTable('accounts', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  key: text(),
  kind: text(),
  name: text(),
  endpoint: text(),
  settings: json<Record<string, string>>(),
  /** Encrypted JSON (AES-256-GCM). */
  secrets: bytes(),
  createdAt: time(),
  /** While it is set nothing is told to it or read from it. */
  pausedAt: time().nullable(),
  /** Since when it is out of use for good. */
  retiredAt: time().nullable(),
  /** The last call: when it was made, how it was answered ('' before the first one), and what was said. */
  askedAt: time().nullable(),
  answerStatus: text(),
  answerSaid: text(),
  /** When it last did what it was asked for, and since when it has not; null while it does. */
  workedAt: time().nullable(),
  brokenAt: time().nullable(),
});
export type AccountRow = RowOf<typeof accounts>;

/** Clicks that a platform reports, by its account's day and campaign. */
export const clickReports = defineTable('click_reports', ['businessId', 'accountId', 'day', 'campaign'], {
  businessId: uuid(),
  accountId: uuid(),
  day: day(),
  campaign: text(),
  source: text(),
  clicks: whole(),
  readAt: time(),
  campaignId: text(),
});

/** Outcomes that a platform reports as counted, by its account's day. */
export const outcomeReports = defineTable('outcome_reports', ['businessId', 'accountId', 'day', 'outcome'], {
  businessId: uuid(),
  accountId: uuid(),
  day: day(),
  outcome: text(),
  counted: whole(),
  readAt: time(),
});

import { defineTable, type RowOf, bigint, text, time, uuid, whole, yes } from '../db/columns';

export const outcomes = defineTable('outcomes', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  code: text(),
  version: whole(),
  dedupeKey: text(),
  enquiryId: uuid(),
  happenedAt: time(),
  stage: text(),
  skipped: yes(),
  amountMinor: bigint(),
  worthMinor: bigint(),
  currency: text(),
  winRate: text(),
  countedAt: time(),
  releaseNumber: whole(),
});
export type OutcomeRow = RowOf<typeof outcomes>;

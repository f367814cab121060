import { defineTable, type RowOf, day, json, text, time, uuid } from '../db/columns';
import type { Reason } from '../../core/reasons/codes';
import type { ReportBackState } from '../../core/reportbacks';

export const reportBacks = defineTable('report_backs', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  outcomeId: uuid(),
  enquiryId: uuid(),
  accountId: uuid(),
  platform: text(),
  state: text<ReportBackState>(),
  reason: json<Reason>().nullable(),
  clickId: text(),
  dueAt: time().nullable(),
  answeredAt: time().nullable(),
  bookedOn: day().nullable(),
  confirmedAt: time().nullable(),
  madeAt: time(),
});
export type ReportBackRow = RowOf<typeof reportBacks>;

export const attempts = defineTable('attempts', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  reportBackId: uuid(),
  startedAt: time(),
  endedAt: time(),
  status: text(),
  sent: json<unknown>(),
  answer: text(),
});
export type AttemptRow = RowOf<typeof attempts>;

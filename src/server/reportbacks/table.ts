import { defineTable, type RowOf, bigint, day, json, text, time, uuid, whole } from '../db/columns';
import type { Reason } from '../../core/reasons/codes';
import type { KeyKind } from '../../core/platforms';
import type { BrakeBecause, ReportBackState } from '../../core/reportbacks';
import type { SubjectKind } from '../../core/strands';

export const reportBacks = defineTable('report_backs', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  outcomeId: uuid(),
  /** 0 for what tells an outcome for the first time; its first correction is 1. */
  correction: whole(),
  subjectKind: text<SubjectKind>(),
  subjectId: uuid(),
  /** The account's ID, nil while it is not connected; its key, by which a rule names it. */
  accountId: uuid(),
  account: text(),
  platform: text(),
  /** What the platform calls the outcome. */
  toldAs: text(),
  state: text<ReportBackState>(),
  reason: json<Reason>().nullable(),
  /** The person who holds it in the queue; '' for nobody. */
  stoppedBy: text(),
  /** Who said that it is told although it is probably the same as another; '' for nobody. */
  letGoBy: text(),
  keyKind: text<KeyKind>(),
  keyValue: text(),
  /** Of a correction: the worth (minor units) that it tells. Of any other: null, it tells what its outcome is worth. */
  tellsMinor: bigint().nullable(),
  /** The worth that the platform has it with: as it took it, or took the last correction of it. */
  toldMinor: bigint().nullable(),
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
  /** The worth that was sent (minor units). */
  worthMinor: bigint().nullable(),
  sent: json<unknown>(),
  answer: text(),
});
export type AttemptRow = RowOf<typeof attempts>;

/** Groups of report-backs of one outcome and account that are held as one, until somebody looked at them. */
export const brakes = defineTable('brakes', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  outcome: text(),
  version: whole(),
  account: text(),
  because: text<BrakeBecause>(),
  /** What it is when it was held, and the most that is usual: how many, minor units, or days. */
  is: bigint(),
  usual: bigint(),
  /** Report-backs that were made since then are held. */
  since: time(),
  madeAt: time(),
  endedAt: time().nullable(),
  endedBy: text(),
});
export type BrakeRow = RowOf<typeof brakes>;

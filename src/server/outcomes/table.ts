import { defineTable, type RowOf, bigint, json, text, time, uuid, whole } from '../db/columns';
import type { ChangeCause, OutcomeChange, OutcomeEvidence } from '../../core/outcomes';
import type { SubjectKind } from '../../core/strands';

export const outcomes = defineTable('outcomes', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  code: text(),
  version: whole(),
  dedupeKey: text(),
  subjectKind: text<SubjectKind>(),
  subjectId: uuid(),
  happenedAt: time(),
  evidence: json<OutcomeEvidence>(),
  amountMinor: bigint(),
  worthMinor: bigint(),
  currency: text(),
  /** What the worth rests on where it is expected: so many won of so many. */
  winRateWon: whole().nullable(),
  winRateOf: whole().nullable(),
  /** What it is worth since it changed, and by what; null while it is worth what it was counted for. */
  correctedMinor: bigint().nullable(),
  worthChange: text<OutcomeChange>(),
  changeCause: text<ChangeCause>(),
  changedAt: time().nullable(),
  countedAt: time(),
  releaseNumber: whole(),
});
export type OutcomeRow = RowOf<typeof outcomes>;

import { defineTable, type RowOf, json, text, time, uuid, whole, yes } from '../db/columns';
import type { Reason } from '../../core/reasons/codes';
import type { Evidence, Hop, HopState, Mark, StrandKind, WayIn } from '../../core/strands';

export const strands = defineTable('strands', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  kind: text<StrandKind>(),
  platform: text(),
  clickId: text(),
  firstAt: time(),
  source: text(),
  medium: text(),
  campaign: text(),
  content: text(),
  utmId: text(),
  visitorId: uuid(),
  marked: text<Mark>(),
  /** The same click ID was seen in a second browser. */
  shared: yes(),
  /** How far it came on the way in by form (core/strands/follow.ts), kept for counting. */
  formReached: whole(),
  formState: text<HopState>().nullable(),
  formReason: text().nullable(),
});
export type StrandRow = RowOf<typeof strands>;

export const hops = defineTable('hops', ['businessId', 'strandId', 'wayIn', 'subjectId', 'outcome', 'hop'], {
  businessId: uuid(),
  strandId: uuid(),
  wayIn: text<WayIn>(),
  subjectId: uuid(),
  outcome: text(),
  hop: text<Hop>(),
  state: text<HopState>(),
  reason: json<Reason>().nullable(),
  evidence: text<Evidence>(),
  at: time().nullable(),
  releaseNumber: whole(),
});
export type HopTableRow = RowOf<typeof hops>;

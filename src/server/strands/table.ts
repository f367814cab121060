import { defineTable, type RowOf, json, text, time, uuid, whole, yes } from '../db/columns';
import type { Reason } from '../../core/reasons/codes';
import type { HopRow, HopState, Mark, StrandKind } from '../../core/strands';

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
});
export type StrandRow = RowOf<typeof strands>;

/**
 * How far strands came (core/strands/follow.ts), kept for counting: under the way in `none` every strand, under another one
 * those whose standing on it differs from that.
 */
export const standings = defineTable('standings', ['businessId', 'wayIn', 'strandId'], {
  businessId: uuid(),
  wayIn: text<HopRow['wayIn']>(),
  strandId: uuid(),
  /** As of the strand, so that those of a period are found. */
  firstAt: time(),
  reached: whole(),
  state: text<HopState>().nullable(),
  reason: text().nullable(),
});
export type StandingRow = RowOf<typeof standings>;

export const hops = defineTable('hops', ['businessId', 'strandId', 'wayIn', 'subjectId', 'outcome', 'hop'], {
  businessId: uuid(),
  strandId: uuid(),
  wayIn: text<HopRow['wayIn']>(),
  subjectId: uuid(),
  outcome: text(),
  hop: text<HopRow['hop']>(),
  state: text<HopState>(),
  reason: json<Reason>().nullable(),
  evidence: text<HopRow['evidence']>(),
  at: time().nullable(),
  releaseNumber: whole(),
});
export type HopTableRow = RowOf<typeof hops>;

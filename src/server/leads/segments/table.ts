import type { SegmentMeans } from '../../../core/leads/segments/condition';
import { defineTable, json, text, time, uuid, yes, type RowOf } from '../../db/columns';

/** Sets of leads that somebody keeps. */
export const segments = defineTable('segments', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  name: text(),
  means: json<SegmentMeans>(),
  /** Whether everybody of the business sees it; else only its owner does. */
  isShared: yes(),
  ownerId: uuid(),
  ownerName: text(),
  madeAt: time(),
  changedAt: time(),
  retiredAt: time().nullable(),
});
export type SegmentRow = RowOf<typeof segments>;

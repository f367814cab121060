import { defineTable, type RowOf, json, text, time, uuid, whole } from '../db/columns';
import type { ReleaseContent } from '../../core/releases';

export const releases = defineTable('releases', ['businessId', 'number'], {
  businessId: uuid(),
  number: whole(),
  name: text(),
  note: text(),
  content: json<ReleaseContent>(),
  hash: text(),
  madeAt: time(),
  /** null where it came with the business. */
  madeBy: uuid().nullable(),
  /** The release whose changes it undoes. */
  takesBack: whole().nullable(),
});
export type ReleaseRow = RowOf<typeof releases>;

export const draftChanges = defineTable('draft_changes', ['businessId', 'kind', 'ruleId'], {
  businessId: uuid(),
  kind: text(),
  ruleId: text(),
  /** null where the rule is taken out. */
  value: json<unknown>().nullable(),
  changedBy: uuid(),
  changedAt: time(),
});
export type DraftChangeRow = RowOf<typeof draftChanges>;

import type { SavedRehearsal } from '../../core/rehearsal/schema';
import { defineTable, json, text, time, uuid, type RowOf } from '../db/columns';

export const rehearsals = defineTable('rehearsals', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  name: text(),
  lines: json<string[]>(),
  traits: json<SavedRehearsal['traits']>(),
  expected: json<SavedRehearsal['expected']>(),
  changedBy: uuid(),
  changedAt: time(),
  /** null while it runs before releases. */
  retiredAt: time().nullable(),
});
export type RehearsalRow = RowOf<typeof rehearsals>;

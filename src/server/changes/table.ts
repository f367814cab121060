import type { ChangeKind } from '../../core/changes/view';
import { defineTable, type RowOf, text, time, uuid } from '../db/columns';

/** Who changed what of a business, from what to what. */
export const changeLog = defineTable('change_log', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  at: time(),
  /** null where nobody who signs in did it, such as a command. */
  personId: uuid().nullable(),
  kind: text<ChangeKind>(),
  subject: text(),
  /** '' where there was none. */
  was: text(),
  /** '' where it was taken away. */
  became: text(),
});
export type ChangeRow = RowOf<typeof changeLog>;

import type { SavedKind } from '../../core/results/kept';
import { day, defineTable, text, time, uuid, type RowOf } from '../db/columns';

/** Figures and funnels that somebody keeps under a name. */
export const figureViews = defineTable('figure_views', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  kind: text<SavedKind>(),
  name: text(),
  /** What is asked for, as it stands in an address. */
  query: text(),
  madeBy: text(),
  madeAt: time(),
  /** Since when it is taken out; null while it is shown. */
  retiredAt: time().nullable(),
});
export type FigureViewRow = RowOf<typeof figureViews>;

/** What somebody notes of a day. */
export const dayNotes = defineTable('day_notes', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  day: day(),
  text: text(),
  madeBy: text(),
  madeAt: time(),
  retiredAt: time().nullable(),
});
export type DayNoteRow = RowOf<typeof dayNotes>;

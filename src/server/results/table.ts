import { defineTable, text, time, uuid, type RowOf } from '../db/columns';

/** Figures that somebody keeps under a name. */
export const figureViews = defineTable('figure_views', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  name: text(),
  /** What is asked for, as it stands in an address. */
  query: text(),
  madeBy: text(),
  madeAt: time(),
  /** Since when it is taken out; null while it is shown. */
  retiredAt: time().nullable(),
});
export type FigureViewRow = RowOf<typeof figureViews>;

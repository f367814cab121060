import { z } from 'zod';
import { ripeQuerySchema } from '../../../core/results/ripeness-view';
import { rangeSchema, strandListSchema, tracedSchema } from '../../../core/strands/schema';
import { readsBy, type Endpoint } from '../endpoint';

const strandColumns = {
  clickId: 'click ID',
  firstAt: 'first seen',
  cameFrom: 'came from',
  campaign: 'campaign',
  company: 'company',
  lastHop: 'last hop',
  why: 'why',
};
/** The days, and which of their strands. */
const strandsSchema = z.unknown().transform((given) => ({
  range: rangeSchema.parse(given),
  list: strandListSchema.parse(given),
}));

export const strands: Endpoint[] = [
  readsBy('/line', rangeSchema, ({ strands: pages }, { membership: { business, role }, query }) =>
    pages.line(business, role, query),
  ),
  readsBy('/line/ripe', ripeQuerySchema, ({ ripeDays }, { membership, query }) => ripeDays(membership, query)),
  readsBy('/strands', strandsSchema, ({ strands: pages }, { membership: { business, role }, query }) =>
    pages.strands(business, role, query.range, query.list),
  ),
  readsBy('/strands.csv', strandsSchema, ({ files, strands: pages }, { membership, query, drained }) => {
    const { business, role } = membership;
    const rows = pages.allStrands(business, role, query.range, { ...query.list, page: 1 });
    return files.writeList('strands', rows, strandColumns, drained);
  }),
  readsBy('/strands/{strand}', tracedSchema, ({ traces }, { membership: { business, role }, params, query }) =>
    traces.ofStrand(business, role, params.strand!, query.way, query.of),
  ),
];

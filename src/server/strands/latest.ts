import type { Sequelize } from 'sequelize';
import type { Release } from '../../core/releases';
import type { LatestRow, WayInKind } from '../../core/strands';
import { listConversions } from '../conversions/latest';
import type { BusinessRow, EnquiryRow, RoleRow } from '../db';
import { toListRow } from '../leads/list';
import { findEnquiries, readEnquiries } from '../leads/queries';
import { listOrders } from '../orders/latest';
import { listSubscriptions } from '../subscriptions/latest';
import type { Narrowing } from './narrowing';

const mostLatest = 6;
const newest = { sort: 'sentAt', descending: 'yes' } as const;

type ReadLatest = (...of: [BusinessRow, RoleRow, Release, Narrowing]) => Promise<LatestRow[]>;

/** What came in last by each way in, of what a line is narrowed to. */
export function makeLatest(db: Sequelize): Record<WayInKind, ReadLatest> {
  /** The enquiries that came in last on one way in. */
  const latestEnquiries =
    (wayIn: EnquiryRow['wayIn']) =>
    async (
      { id }: BusinessRow,
      { seesPeople }: RoleRow,
      release: Release,
      narrowing: Narrowing,
    ): Promise<LatestRow[]> => {
      const own = { wayIn, ...narrowing };
      const ids = await findEnquiries(db, id, newest, null, seesPeople, { limit: mostLatest }, own);
      const rows = (await readEnquiries(db, id, ids)).map((row) => toListRow(row, release, seesPeople));
      return rows.map(({ company, sentAt, ...row }) => ({
        ...row,
        path: `/leads/${row.id}`,
        title: company,
        at: sentAt,
      }));
    };

  return {
    form: latestEnquiries('form'),
    call: latestEnquiries('call'),
    lead_form: latestEnquiries('lead_form'),
    import: latestEnquiries('import'),
    // What is bought is of no segment.
    order: async ({ id }, _role, release, { segment, tags }) =>
      segment ? [] : listOrders(db, id, release, { limit: mostLatest, tags }),
    subscription: async ({ id }, _role, release, { segment, tags }) =>
      segment ? [] : listSubscriptions(db, id, release, { limit: mostLatest, tags }),
    conversion: async ({ id }, _role, release, { segment, tags }) =>
      segment ? [] : listConversions(db, id, release, { limit: mostLatest, tags }),
  };
}

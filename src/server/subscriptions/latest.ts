import type { Sequelize } from 'sequelize';
import type { Release } from '../../core/releases';
import type { LatestRow, TagNarrowing } from '../../core/strands';
import { pick, selectRows } from '../db';
import { boughtStrand, latestBought } from '../strands/latest-bought';
import { strandCameWith } from '../strands/narrowing';
import { standingJoins } from '../strands/standing';
import { subscriptions } from './table';

const listed = { ...pick(subscriptions, ['id', 'number', 'firstAt', 'paidAt'], 'o'), ...boughtStrand };

/**
 * The newest subscriptions, each with the newest click that it is counted for and how far that came.
 * @param number only those with this number
 * @param tags only those whose newest click came with them
 */
export async function listSubscriptions(
  db: Sequelize,
  businessId: string,
  release: Release,
  { number = '', limit, tags = null }: { number?: string; limit: number; tags?: TagNarrowing | null },
): Promise<LatestRow[]> {
  const cameBy = strandCameWith("JSON_VALUE(u.strands, '$[0]')", businessId, tags);
  const rows = await selectRows(
    db,
    listed,
    `FROM (SELECT u.*, JSON_VALUE(u.strands, '$[0]') AS strand_id FROM subscriptions u
       WHERE u.business_id = ? AND u.number <> '' AND u.marked = '' ${number ? 'AND u.number = ?' : ''} AND ${cameBy.sql}
       ORDER BY u.first_at DESC, u.id DESC LIMIT ?) o
     LEFT JOIN strands s ON s.business_id = o.business_id AND s.id = o.strand_id
     ${standingJoins('subscription')}
     ORDER BY o.first_at DESC, o.id DESC`,
    [businessId, ...(number ? [number] : []), ...cameBy.values, limit],
  );
  return rows.map((row) =>
    latestBought(
      'subscription',
      row,
      { id: row.id, number: row.number, at: row.firstAt, last: row.paidAt ? 'Paid' : '' },
      release,
    ),
  );
}

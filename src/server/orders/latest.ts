import type { Sequelize } from 'sequelize';
import type { Release } from '../../core/releases';
import type { LatestRow, TagNarrowing } from '../../core/strands';
import { pick, selectRows } from '../db';
import { boughtStrand, latestBought } from '../strands/latest-bought';
import { strandCameWith } from '../strands/narrowing';
import { standingJoins } from '../strands/standing';
import { orders } from './table';

const listed = { ...pick(orders, ['id', 'number', 'at'], 'o'), ...boughtStrand };

/**
 * The newest orders, each with the newest click that it is counted for and how far that came.
 * @param number only those with this number
 * @param tags only those whose newest click came with them
 */
export async function listOrders(
  db: Sequelize,
  businessId: string,
  release: Release,
  { number = '', limit, tags = null }: { number?: string; limit: number; tags?: TagNarrowing | null },
): Promise<LatestRow[]> {
  const cameBy = strandCameWith("JSON_VALUE(orders.strands, '$[0]')", businessId, tags);
  const rows = await selectRows(
    db,
    listed,
    `FROM (SELECT * FROM orders WHERE business_id = ? AND marked = '' ${number ? 'AND number = ?' : ''} AND ${cameBy.sql}
       ORDER BY at DESC, id DESC LIMIT ?) o
     LEFT JOIN hops h ON h.business_id = o.business_id AND h.subject_id = o.id AND h.way_in = 'order' AND h.hop = 'ordered'
       AND h.strand_id = COALESCE(JSON_VALUE(o.strands, '$[0]'), h.strand_id)
     LEFT JOIN strands s ON s.business_id = h.business_id AND s.id = h.strand_id
     ${standingJoins('order')}
     ORDER BY o.at DESC, o.id DESC`,
    [businessId, ...(number ? [number] : []), ...cameBy.values, limit],
  );
  return rows.map((row) =>
    latestBought('order', row, { id: row.id, number: row.number, at: row.at, last: 'Ordered' }, release),
  );
}

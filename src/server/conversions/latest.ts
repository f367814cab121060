import type { Sequelize } from 'sequelize';
import type { Release } from '../../core/releases';
import type { LatestRow, TagNarrowing } from '../../core/strands';
import { pick, selectRows } from '../db';
import { boughtStrand, latestBought } from '../strands/latest-bought';
import { strandCameWith } from '../strands/narrowing';
import { standingJoins } from '../strands/standing';
import { conversions } from './table';

const listed = { ...pick(conversions, ['id', 'name', 'at'], 'o'), ...boughtStrand };

/** The newest conversions, each with the newest click that it is counted for and how far that came. */
export async function listConversions(
  db: Sequelize,
  businessId: string,
  release: Release,
  { limit, tags }: { limit: number; tags: TagNarrowing | null },
): Promise<LatestRow[]> {
  const cameBy = strandCameWith("JSON_VALUE(c.strands, '$[0]')", businessId, tags);
  const rows = await selectRows(
    db,
    listed,
    `FROM (SELECT c.*, JSON_VALUE(c.strands, '$[0]') AS strand_id FROM conversions c
       WHERE c.business_id = ? AND c.marked = '' AND ${cameBy.sql} ORDER BY c.at DESC, c.id DESC LIMIT ?) o
     LEFT JOIN strands s ON s.business_id = o.business_id AND s.id = o.strand_id
     ${standingJoins('conversion')}
     ORDER BY o.at DESC, o.id DESC`,
    [businessId, ...cameBy.values, limit],
  );
  return rows.map((row) =>
    latestBought('conversion', row, { id: row.id, number: row.name, at: row.at, last: 'Converted' }, release),
  );
}

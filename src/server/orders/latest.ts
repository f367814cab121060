import type { Sequelize } from 'sequelize';
import { isAlone, type LatestRow } from '../../core/strands';
import { waysIn } from '../../core/ways-in';
import { originWords, type Release } from '../../core/releases';
import { orNull, pick, selectRows, uuid } from '../db';
import { standingWords } from '../leads/list';
import { standing, standingJoins } from '../strands/standing';
import { strands } from '../strands/table';
import { orders } from './table';

const listed = {
  ...pick(orders, ['id', 'number', 'at'], 'o'),
  strandId: uuid().of('s.id').nullable(),
  ...orNull(pick(strands, ['kind', 'source', 'medium'], 's')),
  ...standing,
};

/**
 * The newest orders, each with the newest click that it is counted for and how far that came.
 * @param number only those with this number
 */
export async function listOrders(
  db: Sequelize,
  businessId: string,
  release: Release,
  { number = '', limit }: { number?: string; limit: number },
): Promise<LatestRow[]> {
  const rows = await selectRows(
    db,
    listed,
    `FROM (SELECT * FROM orders WHERE business_id = ? AND marked = '' ${number ? 'AND number = ?' : ''}
       ORDER BY at DESC, id DESC LIMIT ?) o
     LEFT JOIN hops h ON h.business_id = o.business_id AND h.subject_id = o.id AND h.way_in = 'order' AND h.hop = 'ordered'
       AND h.strand_id = COALESCE(JSON_VALUE(o.strands, '$[0]'), h.strand_id)
     LEFT JOIN strands s ON s.business_id = h.business_id AND s.id = h.strand_id
     ${standingJoins('order')}
     ORDER BY o.at DESC, o.id DESC`,
    [businessId, ...(number ? [number] : []), limit],
  );
  return rows.map(({ id, number: named, at, strandId, kind, source, medium, ...stands }) => {
    const isKnown = kind !== null && !isAlone({ kind });
    const { lastHop, state, why } = isKnown
      ? standingWords(waysIn.order, stands.reached, stands.state, stands.reason, release)
      : { lastHop: 'Ordered', state: 'unknown' as const, why: 'no click known' };
    return {
      id,
      path: strandId ? `/strands/${strandId}?way=order` : null,
      title: named,
      at: at.toISOString(),
      cameFrom: isKnown ? originWords(release, source ?? '', medium ?? '') : 'not known',
      lastHop,
      state,
      why,
    };
  });
}

import type { Sequelize } from 'sequelize';
import { waysIn } from '../../core/ways-in';
import { originWords, type Release } from '../../core/releases';
import type { LatestRow } from '../../core/strands';
import { orNull, pick, selectRows, uuid } from '../db';
import { standingWords } from '../leads/list';
import { standing, standingJoins } from '../strands/standing';
import { strands } from '../strands/table';
import { subscriptions } from './table';

const listed = {
  ...pick(subscriptions, ['id', 'number', 'firstAt', 'paidAt'], 'o'),
  strandId: uuid().of('s.id').nullable(),
  ...orNull(pick(strands, ['kind', 'source', 'medium'], 's')),
  ...standing,
};

/**
 * The newest subscriptions, each with the newest click that it is counted for and how far that came.
 * @param number only those with this number
 */
export async function listSubscriptions(
  db: Sequelize,
  businessId: string,
  release: Release,
  { number = '', limit }: { number?: string; limit: number },
): Promise<LatestRow[]> {
  const rows = await selectRows(
    db,
    listed,
    `FROM (SELECT u.*, JSON_VALUE(u.strands, '$[0]') AS strand_id FROM subscriptions u
       WHERE u.business_id = ? AND u.number <> '' AND u.marked = '' ${number ? 'AND u.number = ?' : ''}
       ORDER BY u.first_at DESC, u.id DESC LIMIT ?) o
     LEFT JOIN strands s ON s.business_id = o.business_id AND s.id = o.strand_id
     ${standingJoins('subscription')}
     ORDER BY o.first_at DESC, o.id DESC`,
    [businessId, ...(number ? [number] : []), limit],
  );
  return rows.map(({ id, number: named, firstAt, paidAt, strandId, kind, source, medium, ...stands }) => {
    const way = waysIn.subscription;
    const { lastHop, state, why } =
      kind === null
        ? { lastHop: paidAt ? 'Paid' : '', state: 'unknown' as const, why: 'no click known' }
        : standingWords(way, stands.reached, stands.state, stands.reason, release);
    return {
      id,
      path: strandId ? `/strands/${strandId}?way=subscription` : null,
      title: named,
      at: firstAt.toISOString(),
      cameFrom: kind === null ? 'not known' : originWords(release, source ?? '', medium ?? ''),
      lastHop,
      state,
      why,
    };
  });
}

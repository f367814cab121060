import type { Sequelize } from 'sequelize';
import { writeAmount } from '../../core/outcomes';
import type { QueueListQuery } from '../../core/reportbacks/queue-schema';
import type { OpenConversion } from '../../core/reportbacks/queue-view';
import type { RoleRow } from '../db';
import { inParts, mostInFile } from '../lists';
import { worthNow } from '../outcomes/worth-now';
import { findQueue, readQueue, type QueueQueryRow } from './queue-queries';

/** What a report-back tells, or told, that its outcome is worth (minor units). */
export const toldWorth = (row: QueueQueryRow): number => Number(row.tellsMinor ?? row.toldMinor ?? worthNow(row).minor);

/**
 * Report-backs of a list in the open form of offline conversions: those that a platform took, unless the list is of another
 * state. Those that no click is told of are left out.
 */
export async function* readConversions(
  db: Sequelize,
  businessId: string,
  query: QueueListQuery,
  role: RoleRow,
): AsyncGenerator<OpenConversion[]> {
  const ids = await findQueue(db, businessId, query, role.seesPeople, { limit: mostInFile });
  const isWanted = ({ state }: QueueQueryRow) => query.state !== '' || state === 'told' || state === 'confirmed';
  yield* inParts(ids, async (part) =>
    (await readQueue(db, businessId, part)).filter(isWanted).flatMap(toOpenConversion),
  );
}

const toOpenConversion = (row: QueueQueryRow): OpenConversion[] =>
  row.keyKind !== 'click_id' || row.keyValue === ''
    ? []
    : [
        {
          clickId: row.keyValue,
          outcome: row.toldAs,
          happenedAt: row.happenedAt.toISOString(),
          amount: writeAmount({ minor: toldWorth(row), currency: row.currency }),
          currency: row.currency,
          order: row.outcomeId,
          change: row.correction === 0 ? 'new' : toldWorth(row) === 0 ? 'taken-back' : 'revalued',
        },
      ];

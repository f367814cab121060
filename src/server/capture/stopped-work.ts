/* eslint-disable no-await-in-loop -- one statement for each lane, in one transaction */
import type { StoppedWork } from '../../core/capture/faults';
import { now } from '../clock';
import type { Context } from '../context';
import { selectRows, text, uuid, inTransaction, markWork } from '../db';
import { groupBy } from '../../core/group-by';
import type { Membership } from '../people/people';
import { requireEditor } from '../releases/draft';

/** Pieces that are tried again at once; the rest is there to be tried afterwards. */
const mostAtOnce = 2000;

/** Work that failed for good: tried anew when somebody says so. */
export function makeStoppedWork({ db }: Pick<Context, 'db'>) {
  return {
    /** Has the pieces of a kind that were given up tried again. @returns how many @throws AVX_ROLE_TOO_SMALL */
    async again(membership: Membership, kind: StoppedWork): Promise<number> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      return inTransaction(db, async (transaction) => {
        const rows = await selectRows(
          db,
          { id: uuid(), lane: text().nullable().of("JSON_VALUE(body, '$.lane')") },
          `FROM quarantine WHERE business_id = ? AND kind = ? ORDER BY received_at LIMIT ${mostAtOnce} FOR UPDATE`,
          [businessId, kind],
          transaction,
        );
        for (const [lane, own] of groupBy(rows, (row) => row.lane ?? '')) {
          const ids = own.map(({ id }) => id);
          await markWork(db, kind, businessId, ids, now(), transaction, lane);
          await db.query('DELETE FROM quarantine WHERE business_id = ? AND id IN (?)', {
            replacements: [businessId, ids],
            transaction,
          });
        }
        return rows.length;
      });
    },
  };
}

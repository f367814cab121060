import type { Sequelize } from 'sequelize';
import { contractOf } from '../../core/platforms';
import type { Release } from '../../core/releases';
import { setupSteps, type SetupStep } from '../../core/strands';
import { isRecorded } from '../capture/queries';
import { pick, selectRows, uuid } from '../db';
import { accounts } from '../platforms/table';

const isThere = async (db: Sequelize, from: string, businessId: string): Promise<boolean> =>
  (await selectRows(db, { id: uuid() }, `FROM ${from} LIMIT 1`, [businessId])).length > 0;

/** The steps of setting a business up, by what was seen of it; none once an outcome was counted. */
export async function readSetupSteps(db: Sequelize, businessId: string, { content }: Release): Promise<SetupStep[]> {
  if (await isThere(db, 'outcomes WHERE business_id = ?', businessId)) return [];
  const [hit, record, worked] = await Promise.all([
    isRecorded(db, businessId),
    isThere(db, 'deals WHERE business_id = ?', businessId),
    selectRows(
      db,
      pick(accounts, ['kind']),
      'FROM accounts WHERE business_id = ? AND worked_at IS NOT NULL AND retired_at IS NULL',
      [businessId],
    ),
  ]);
  const platform = worked.some(({ kind }) => contractOf(kind, content.platforms) !== null);
  return setupSteps({ hit, record, platform, outcome: false });
}

import type { Sequelize, Transaction } from 'sequelize';
import { now, nowMs } from '../clock';
import { markWork } from '../db';
import { newId } from '../ids';

const hour = 3_600_000;

/**
 * Says that rows of some moments (ms) changed, in the transaction that changes them: the sums of their days are written
 * anew. Each says it in rows of its own, so that nobody waits for anybody.
 */
export async function markMoments(
  db: Sequelize,
  businessId: string,
  moments: number[],
  transaction: Transaction,
  after: number,
): Promise<void> {
  const hours = [...new Set(moments.map((at) => Math.floor(at / hour)))];
  if (hours.length === 0) return;
  await db.query(`INSERT INTO roll_up_marks (business_id, id, hour) VALUES ${hours.map(() => '(?,?,?)').join(',')}`, {
    replacements: hours.flatMap((one) => [businessId, newId(), new Date(one * hour)]),
    transaction,
  });
  const dueAt = after > 0 ? new Date(nowMs() + after) : now();
  await markWork(db, 'roll_up', businessId, [businessId], dueAt, transaction);
}

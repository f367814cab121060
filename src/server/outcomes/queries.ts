import { QueryTypes, type Sequelize } from 'sequelize';
import type { OutcomeRow } from '../db';
import type { Place } from '../place';

/** Counted outcomes, newest first: a keyset over (counted_at, id), which a model cannot say. */
export async function listOutcomes(
  db: Sequelize,
  businessId: string,
  filter: { code?: string | undefined },
  limit: number,
  after: Place | null,
): Promise<OutcomeRow[]> {
  const where = ['business_id = ?'];
  const values: unknown[] = [businessId];
  if (filter.code) {
    where.push('code = ?');
    values.push(filter.code);
  }
  if (after) {
    where.push('(counted_at < ? OR (counted_at = ? AND id > ?))');
    values.push(after.at, after.at, after.id);
  }
  return db.query<OutcomeRow>(
    `SELECT id, code, version, enquiry_id AS enquiryId, happened_at AS happenedAt, counted_at AS countedAt, stage,
       skipped, amount_minor AS amountMinor, worth_minor AS worthMinor, currency, win_rate AS winRate,
       release_number AS releaseNumber
     FROM outcomes WHERE ${where.join(' AND ')} ORDER BY counted_at DESC, id LIMIT ?`,
    { replacements: [...values, limit], type: QueryTypes.SELECT },
  );
}

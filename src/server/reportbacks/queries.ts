import { QueryTypes, type Sequelize } from 'sequelize';
import type { ReportBackState } from '../../core/reportbacks';
import type { ReportBackRow } from '../db';
import type { Place } from '../place';

/** Report-backs, newest first: a keyset over (made_at, id), which a model cannot say. */
export async function listReportBacks(
  db: Sequelize,
  businessId: string,
  filter: { state?: ReportBackState | undefined; platform?: string | undefined },
  limit: number,
  after: Place | null,
): Promise<ReportBackRow[]> {
  const where = ['business_id = ?'];
  const values: unknown[] = [businessId];
  for (const column of ['state', 'platform'] as const)
    if (filter[column]) {
      where.push(`${column} = ?`);
      values.push(filter[column]);
    }
  if (after) {
    where.push('(made_at < ? OR (made_at = ? AND id > ?))');
    values.push(after.at, after.at, after.id);
  }
  return db.query<ReportBackRow>(
    `SELECT id, outcome_id AS outcomeId, enquiry_id AS enquiryId, platform, state, reason, click_id AS clickId,
       made_at AS madeAt, due_at AS dueAt, answered_at AS answeredAt, confirmed_at AS confirmedAt
     FROM report_backs WHERE ${where.join(' AND ')} ORDER BY made_at DESC, id LIMIT ?`,
    { replacements: [...values, limit], type: QueryTypes.SELECT },
  );
}

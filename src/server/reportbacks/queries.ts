import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
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

/** How many attempts there are of each of some report-backs of one business; those without any are left out. */
export async function countAttempts(
  db: Sequelize,
  reportBacks: ReportBackRow[],
  transaction: Transaction,
): Promise<Map<string, number>> {
  if (reportBacks.length === 0) return new Map();
  const rows = await db.query<{ id: string; n: number }>(
    `SELECT report_back_id AS id, COUNT(*) AS n FROM attempts
     WHERE business_id = ? AND report_back_id IN (?) GROUP BY report_back_id`,
    {
      replacements: [reportBacks[0]!.businessId, reportBacks.map(({ id }) => id)],
      ...{ type: QueryTypes.SELECT, transaction },
    },
  );
  return new Map(rows.map(({ id, n }) => [id, Number(n)]));
}

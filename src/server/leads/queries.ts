import { QueryTypes, type Sequelize } from 'sequelize';
import type { LeadListQuery } from '../../core/leads';
import type { HopState, StrandKind } from '../../core/strands';

export interface LeadQueryRow {
  id: string;
  name: string | null;
  company: string | null;
  form: string;
  sentAt: Date;
  stage: string | null;
  source: string | null;
  medium: string | null;
  referrer: string | null;
  /** Hops of this very enquiry that were made, without a break. */
  reached: number | null;
  state: HopState | null;
  reason: string | null;
  kind: StrandKind | null;
}

/** Rows on one page of a list. */
export const pageSize = 50;

const columns = { sentAt: 'e.sent_at', company: 'l.company', stage: 'e.stage' };

/** Enquiries with their lead and how far their strand came: one join, sorted and paged by the database. */
export async function listEnquiries(
  db: Sequelize,
  businessId: string,
  query: LeadListQuery,
  limit = pageSize,
): Promise<{ rows: LeadQueryRow[]; total: number; lost: number }> {
  const where = ['e.business_id = ?'];
  const values: unknown[] = [businessId];
  if (query.find) {
    const like = `%${query.find.replace(/[\\%_]/g, '\\$&')}%`;
    where.push('(l.company LIKE ? OR l.name LIKE ? OR s.click_id LIKE ? OR s.campaign LIKE ? OR e.crm_deal LIKE ?)');
    values.push(like, like, like, like, like);
  }
  const from = `FROM enquiries e
    LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id
    LEFT JOIN strands s ON s.business_id = e.business_id AND s.id = e.strand_id
    LEFT JOIN touches t ON t.business_id = e.business_id AND t.id = e.touch_id
    WHERE ${where.join(' AND ')}`;
  const rows = await db.query<LeadQueryRow>(
    `SELECT e.id, l.name, l.company, e.form, e.sent_at AS sentAt, e.stage, t.source, t.medium, t.referrer,
       s.form_reached AS reached, s.form_state AS state, s.form_reason AS reason, s.kind
     ${from} ORDER BY ${columns[query.sort]} ${query.descending === 'yes' ? 'DESC' : 'ASC'}, e.id LIMIT ? OFFSET ?`,
    { replacements: [...values, limit, (query.page - 1) * pageSize], type: QueryTypes.SELECT },
  );
  const [all] = await db.query<{ n: number; lost: number | null }>(
    `SELECT COUNT(*) AS n, SUM(s.form_state = 'lost') AS lost ${from}`,
    {
      replacements: values,
      type: QueryTypes.SELECT,
    },
  );
  return { rows, total: Number(all!.n), lost: Number(all!.lost ?? 0) };
}

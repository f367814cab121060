import { QueryTypes, type Sequelize } from 'sequelize';
import { likeText } from '../db';
import type { LeadListQuery } from '../../core/leads';
import type { HopState, StrandKind } from '../../core/strands';
import type { Place } from '../place';

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
  strandId: string | null;
  clickId: string | null;
  crmDeal: string | null;
}

/** Rows on one page of a list. */
export const pageSize = 50;

const columns = { sentAt: 'e.sent_at', company: 'l.company', stage: 'e.stage' };
const found = ['s.click_id', 's.campaign', 'e.crm_deal'];

/**
 * Enquiries with their lead and how far their strand came: one join, sorted and paged by the database.
 *
 * @param seesPeople false: nothing is sorted or found by who somebody is
 * @param after goes on behind this place of the list, newest first, and counts nothing; null for its beginning
 */
export async function listEnquiries(
  db: Sequelize,
  businessId: string,
  query: LeadListQuery,
  seesPeople: boolean,
  limit = pageSize,
  after?: Place | null,
): Promise<{ rows: LeadQueryRow[]; total: number; lost: number }> {
  const where = ["e.business_id = ? AND e.marked = ''"];
  const values: unknown[] = [businessId];
  if (query.find) {
    const like = likeText(query.find);
    const findable = seesPeople ? ['l.company', 'l.name', ...found] : found;
    where.push(`(${findable.map((column) => `${column} LIKE ?`).join(' OR ')})`);
    values.push(...findable.map(() => like));
  }
  if (after) {
    where.push('(e.sent_at < ? OR (e.sent_at = ? AND e.id < ?))');
    values.push(after.at, after.at, after.id);
  }
  const strands = 'LEFT JOIN strands s ON s.business_id = e.business_id AND s.id = e.strand_id';
  const leads = 'LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id';
  const touches = 'LEFT JOIN touches t ON t.business_id = e.business_id AND t.id = e.touch_id';
  // Rows of one moment go in the same direction, as the index has them.
  const direction = query.descending === 'yes' ? 'DESC' : 'ASC';
  const sort = columns[!seesPeople && query.sort === 'company' ? 'sentAt' : query.sort];
  const rows = await db.query<LeadQueryRow>(
    `SELECT e.id, l.name, l.company, e.form, e.sent_at AS sentAt, e.stage, t.source, t.medium, t.referrer,
       s.form_reached AS reached, s.form_state AS state, s.form_reason AS reason, s.kind, e.strand_id AS strandId,
       s.click_id AS clickId, e.crm_deal AS crmDeal
     FROM enquiries e ${leads} ${strands} ${touches} WHERE ${where.join(' AND ')}
     ORDER BY ${sort} ${direction}, e.id ${direction} LIMIT ? OFFSET ?`,
    { replacements: [...values, limit, (query.page - 1) * pageSize], type: QueryTypes.SELECT },
  );
  if (after !== undefined) return { rows, total: rows.length, lost: 0 };
  const [all] = await db.query<{ n: number; lost: number | null }>(
    `SELECT COUNT(*) AS n, SUM(s.form_state = 'lost') AS lost
     FROM enquiries e ${query.find ? leads : ''} ${strands} WHERE ${where.join(' AND ')}`,
    {
      replacements: values,
      type: QueryTypes.SELECT,
    },
  );
  return { rows, total: Number(all!.n), lost: Number(all!.lost ?? 0) };
}

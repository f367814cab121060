import type { Sequelize } from 'sequelize';
import { type Read, orNull, pick, selectOne, selectRows, whole, likeText } from '../db';
import type { LeadListQuery } from '../../core/leads';
import type { Place } from '../place';
import { enquiries, leads } from './table';
import { strands } from '../strands/table';
import { touches } from '../capture/table';

/** What a list of enquiries shows of each, from the tables by the aliases of `listEnquiries`. */
const listed = {
  ...pick(enquiries, ['id', 'form', 'sentAt', 'stage', 'strandId', 'crmDeal'], 'e'),
  ...orNull(pick(leads, ['name', 'company'], 'l')),
  ...orNull(pick(touches, ['source', 'medium', 'referrer'], 't')),
  ...orNull(pick(strands, ['kind', 'clickId'], 's')),
  /** Hops of this very enquiry that were made, without a break. */
  reached: strands.columns.formReached.of('s.form_reached').nullable(),
  state: strands.columns.formState.of('s.form_state'),
  reason: strands.columns.formReason.of('s.form_reason'),
};
export type LeadQueryRow = Read<typeof listed>;

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
  const withStrand = 'LEFT JOIN strands s ON s.business_id = e.business_id AND s.id = e.strand_id';
  const withLead = 'LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id';
  const withTouch = 'LEFT JOIN touches t ON t.business_id = e.business_id AND t.id = e.touch_id';
  // Rows of one moment go in the same direction, as the index has them.
  const direction = query.descending === 'yes' ? 'DESC' : 'ASC';
  const sort = columns[!seesPeople && query.sort === 'company' ? 'sentAt' : query.sort];
  const rows = await selectRows(
    db,
    listed,
    `FROM enquiries e ${withLead} ${withStrand} ${withTouch} WHERE ${where.join(' AND ')}
     ORDER BY ${sort} ${direction}, e.id ${direction} LIMIT ? OFFSET ?`,
    [...values, limit, (query.page - 1) * pageSize],
  );
  if (after !== undefined) return { rows, total: rows.length, lost: 0 };
  const { total, lost } = await selectOne(
    db,
    { total: whole().of('COUNT(*)'), lost: whole().nullable().of("SUM(s.form_state = 'lost')") },
    `FROM enquiries e ${query.find ? withLead : ''} ${withStrand} WHERE ${where.join(' AND ')}`,
    values,
  );
  return { rows, total, lost: lost ?? 0 };
}

import type { Sequelize } from 'sequelize';
import { nilId } from '../../core/strands';
import { orNull, pick, selectOne, selectRows, whole, type Read } from '../db';
import { leads, platformLeads } from './table';

const totals = {
  all: whole().of('COUNT(*)'),
  gone: whole().of('COALESCE(SUM(fetched_at IS NULL AND is_test = FALSE), 0)'),
  tests: whole().of('COALESCE(SUM(is_test), 0)'),
  inCrm: whole().of("COALESCE(SUM(deal <> ''), 0)"),
  refused: whole().of("COALESCE(SUM(deal = '' AND handed = 'refused'), 0)"),
};
export type Totals = Read<typeof totals>;

/** How many leads platforms' own forms took, and what became of them. */
export const readTotals = (db: Sequelize, businessId: string): Promise<Totals> =>
  selectOne(db, totals, 'FROM platform_leads WHERE business_id = ? AND account_id <> ?', [businessId, nilId]);

const newest = {
  ...pick(
    platformLeads,
    [
      ...(['id', 'enquiryId', 'number', 'form', 'ad', 'campaign', 'place'] as const),
      ...(['sentAt', 'fetchedAt', 'isTest', 'handed', 'answer', 'deal'] as const),
    ],
    'p',
  ),
  ...orNull(pick(leads, ['name', 'company'], 'l')),
};
export type NewestLead = Read<typeof newest>;

/** The newest of them, with who sent them. */
export const readNewestLeads = (db: Sequelize, businessId: string, most: number): Promise<NewestLead[]> =>
  selectRows(
    db,
    newest,
    `FROM platform_leads p LEFT JOIN leads l ON l.business_id = p.business_id AND l.id = p.lead_id
     WHERE p.business_id = ? AND p.account_id <> ? ORDER BY p.sent_at DESC, p.id LIMIT ?`,
    [businessId, nilId, most],
  );

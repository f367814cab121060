import type { Sequelize } from 'sequelize';
import { touches } from '../capture/table';
import { orNull, pick, selectRows, whole, type Read } from '../db';
import type { Quality } from '../../core/leads';
import { strands } from '../strands/table';
import { enquiries } from './table';

const answered = {
  ...pick(enquiries, ['sentAt', 'answeredAt', 'answeredBy', 'quality'], 'e'),
  ...orNull(pick(touches, ['source', 'medium', 'referrer'], 't')),
  ...orNull(pick(strands, ['campaign'], 's')),
};
export type AnsweredRow = Read<typeof answered>;

/** The newest enquiries since a moment, with where they came from and when they were first answered. */
export const readAnswered = (db: Sequelize, businessId: string, since: Date, most: number): Promise<AnsweredRow[]> =>
  selectRows(
    db,
    answered,
    `FROM enquiries e LEFT JOIN touches t ON t.business_id = e.business_id AND t.id = e.touch_id
     LEFT JOIN strands s ON s.business_id = e.business_id AND s.id = e.strand_id
     WHERE e.business_id = ? AND e.marked = '' AND e.sent_at >= ? ORDER BY e.sent_at DESC LIMIT ?`,
    [businessId, since, most],
  );

/** How many enquiries there are of each quality. */
export async function countQualities(db: Sequelize, businessId: string): Promise<Partial<Record<Quality, number>>> {
  const rows = await selectRows(
    db,
    { ...pick(enquiries, ['quality']), total: whole().of('COUNT(*)') },
    "FROM enquiries WHERE business_id = ? AND marked = '' GROUP BY quality",
    [businessId],
  );
  return Object.fromEntries(rows.map(({ quality, total }) => [quality, total]));
}

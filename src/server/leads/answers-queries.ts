import type { Sequelize } from 'sequelize';
import { touches } from '../capture/table';
import { orNull, pick, selectRows, whole, type Read } from '../db';
import type { Quality } from '../../core/leads';
import { strands } from '../strands/table';
import type { SegmentNarrowing } from './segments/segments';
import { enquiries } from './table';

const answered = {
  ...pick(enquiries, ['sentAt', 'answeredAt', 'answeredBy', 'quality'], 'e'),
  ...orNull(pick(touches, ['source', 'medium', 'referrer'], 't')),
  ...orNull(pick(strands, ['campaign'], 's')),
};
export type AnsweredRow = Read<typeof answered>;

/** The newest enquiries since a moment, with where they came from and when they were first answered. */
export const readAnswered = (
  db: Sequelize,
  businessId: string,
  since: Date,
  most: number,
  segment: SegmentNarrowing | null,
): Promise<AnsweredRow[]> =>
  selectRows(
    db,
    answered,
    `FROM enquiries e LEFT JOIN touches t ON t.business_id = e.business_id AND t.id = e.touch_id
     LEFT JOIN strands s ON s.business_id = e.business_id AND s.id = e.strand_id
     WHERE e.business_id = ? AND e.marked = '' AND e.sent_at >= ? AND ${segment?.where[0] ?? 'TRUE'}
     ORDER BY e.sent_at DESC LIMIT ?`,
    [businessId, since, ...(segment?.where[1] ?? []), most],
  );

/** How many enquiries there are of each quality. */
export async function countQualities(
  db: Sequelize,
  businessId: string,
  segment: SegmentNarrowing | null = null,
): Promise<Partial<Record<Quality, number>>> {
  const [within, values] = segment?.where ?? ['TRUE', []];
  const rows = await selectRows(
    db,
    { ...pick(enquiries, ['quality'], 'e'), total: whole().of('COUNT(*)') },
    `FROM enquiries e WHERE e.business_id = ? AND e.marked = '' AND ${within} GROUP BY e.quality`,
    [businessId, ...values],
  );
  return Object.fromEntries(rows.map(({ quality, total }) => [quality, total]));
}

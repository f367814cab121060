import type { Sequelize } from 'sequelize';
import type { Reason } from '../../core/reasons/codes';
import type { FollowedGroup, Period, TagNarrowing, WayInKind } from '../../core/strands';
import { beginsElsewhere, waysIn } from '../../core/ways-in';
import { selectOne, selectRows, whole } from '../db';
import type { SegmentNarrowing } from '../leads/segments/segments';
import { cameWith } from './narrowing';
import { countedKinds, standing, standingJoins, type StandingCondition } from './standing';

/* A line that is narrowed to a segment. Its sums by day know no segment, so its strands are counted as they are. */

/**
 * True for the strands of a column that brought an enquiry of a segment on a way in; on ways without enquiries, on any way.
 * @param column such as `s.id`
 */
export function ofSegment(
  column: string,
  businessId: string,
  { where: [within, values], meansNoEnquiry }: SegmentNarrowing,
  way: WayInKind,
): StandingCondition {
  const onWay = waysIn[way].subject === 'enquiry';
  return {
    sql: `${column} IN (SELECT e.strand_id FROM enquiries e WHERE e.business_id = ? AND e.marked = ''
      ${meansNoEnquiry ? '' : "AND e.quality <> 'no_enquiry'"} ${onWay ? 'AND e.way_in = ?' : ''} AND ${within})`,
    values: [businessId, ...(onWay ? [way] : []), ...values],
  };
}

/** The strands of a period that brought an enquiry of a segment, grouped by how far they came on a way in. */
export async function readSegmentGroups(
  db: Sequelize,
  businessId: string,
  { from, to }: Period,
  way: WayInKind,
  segment: SegmentNarrowing,
  tags: TagNarrowing | null,
): Promise<FollowedGroup[]> {
  const elsewhere = beginsElsewhere(waysIn[way]);
  const within = cameWith('s', tags);
  const { sql, values } = ofSegment('s.id', businessId, segment, way);
  const rows = await selectRows(
    db,
    {
      ...standing,
      strands: whole().of('COUNT(*)'),
      withClickId: whole().of(elsewhere ? 'COUNT(*)' : "SUM(s.kind = 'click')"),
    },
    `FROM strands s ${standingJoins(way)}
     WHERE s.business_id = ? AND s.first_at >= ? AND s.first_at < ? AND s.marked = ''
       AND ${elsewhere ? 'w.strand_id IS NOT NULL' : countedKinds(way)} AND ${sql} AND ${within.sql}
     GROUP BY reached, state, reason`,
    [businessId, new Date(from), new Date(to), ...values, ...within.values],
  );
  return rows.map((row) => ({ ...row, reason: row.reason === null ? null : (JSON.parse(row.reason) as Reason) }));
}

/** Enquiries of a segment without any known click or tagged landing, beside the line of their way in. */
export async function countSegmentBeside(
  db: Sequelize,
  businessId: string,
  { from, to }: Period,
  way: WayInKind,
  segment: SegmentNarrowing,
): Promise<number> {
  const { sql, values } = ofSegment('s.id', businessId, segment, way);
  const { alone } = await selectOne(
    db,
    { alone: whole().of('COUNT(*)') },
    `FROM strands s WHERE s.business_id = ? AND s.first_at >= ? AND s.first_at < ? AND s.marked = '' AND s.kind = ?
       AND ${sql}`,
    [businessId, new Date(from), new Date(to), waysIn[way].alone, ...values],
  );
  return alone;
}

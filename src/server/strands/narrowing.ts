import type { TagNarrowing } from '../../core/strands';
import type { SegmentNarrowing } from '../leads/segments/segments';
import type { StandingCondition } from './standing';
import type { Toward } from './toward';

/** All that a line is narrowed to. */
export interface Narrowing {
  segment: SegmentNarrowing | null;
  tags: TagNarrowing | null;
  /** The outcome, with how strands stand toward it; null for the Qualified of the way in. */
  toward: Toward | null;
}

/**
 * True for what came with the tags of what a line is narrowed to.
 * @param of the table or its alias that has `platform`, `source`, `campaign` and `utm_id`
 */
export function cameWith(of: string, tags: TagNarrowing | null): StandingCondition {
  if (!tags) return { sql: 'TRUE', values: [] };
  const { to, sources, campaigns } = tags;
  const conditions: StandingCondition[] = [];
  if (to.platform !== '') {
    const bySource = sources.length > 0 ? `OR ${of}.platform = '' AND ${of}.source IN (?)` : '';
    conditions.push({
      sql: `(${of}.platform = ? ${bySource})`,
      values: [to.platform, ...(sources.length > 0 ? [sources] : [])],
    });
  }
  if (to.campaign !== '')
    conditions.push(
      campaigns.length > 0
        ? { sql: `(${of}.campaign, ${of}.utm_id) IN (?)`, values: [campaigns] }
        : { sql: 'FALSE', values: [] },
    );
  return { sql: conditions.map(({ sql }) => sql).join(' AND '), values: conditions.flatMap(({ values }) => values) };
}

/** True for what the strand of this ID came with. @param id a column or expression */
export function strandCameWith(id: string, businessId: string, tags: TagNarrowing | null): StandingCondition {
  const { sql, values } = cameWith('n', tags);
  if (!tags) return { sql, values };
  return {
    sql: `EXISTS (SELECT 1 FROM strands n WHERE n.business_id = ? AND n.id = ${id} AND ${sql})`,
    values: [businessId, ...values],
  };
}

import type { Hop, HopState, WayInKind } from '../../core/strands';
import { beginsElsewhere, waysIn } from '../../core/ways-in';
import { standings } from './table';

/**
 * How a strand `s` stands on a way in: its own standing there (`w`), else the one it has on all of them (`b`).
 *
 * @param way `own`: the one that the enquiry `e` came by
 */
export const standingJoins = (way: WayInKind | 'own') =>
  `LEFT JOIN standings b ON b.business_id = s.business_id AND b.way_in = 'none' AND b.strand_id = s.id
   LEFT JOIN standings w ON w.business_id = s.business_id AND w.way_in = ${way === 'own' ? 'e.way_in' : `'${way}'`}
     AND w.strand_id = s.id`;

const own = (column: string) => `IF(w.strand_id IS NULL, b.${column}, w.${column})`;

/** What is read of it through those joins. */
export const standing = {
  reached: standings.columns.reached.of(`COALESCE(${own('reached')}, 0)`),
  state: standings.columns.state.of(own('state')),
  reason: standings.columns.reason.of(own('reason')),
};

/** True where a strand was lost on the way in. */
export const isLost = `COALESCE(${own('state')} = 'lost', FALSE)`;

/** A condition over `standings f`, with its values. */
export interface StandingCondition {
  sql: string;
  values: unknown[];
}

/** Which kinds of strands `s` a line counts: clicks and landings; all where it begins elsewhere. */
export const countedKinds = (way: WayInKind): string =>
  beginsElsewhere(waysIn[way]) ? 'TRUE' : "s.kind IN ('click', 'landing')";

/**
 * The standings `f` of the strands behind one number of a line: those that made a hop, or stopped before it. A strand has
 * at most one of them. What all ways in share is found by the standings of all, what comes after by those of the way.
 */
export function atHop(way: WayInKind, hop: Hop, state: HopState): StandingCondition {
  const { hops, own: first } = waysIn[way];
  const index = hops.indexOf(hop);
  const isOwn = index >= hops.indexOf(first);
  if (state === 'made_it') return { sql: 'f.way_in = ? AND f.reached > ?', values: [isOwn ? way : 'none', index] };
  if (hop === 'clicked') return { sql: "f.way_in = 'none'", values: [] };
  const stopped = (as: string) => `f.way_in = '${as}' AND f.reached = ? AND f.state = ?`;
  if (hop !== first) return { sql: stopped(isOwn ? way : 'none'), values: [index, state] };
  const none = `NOT EXISTS (SELECT 1 FROM standings w WHERE w.business_id = f.business_id AND w.way_in = '${way}'
    AND w.strand_id = f.strand_id)`;
  return { sql: `(${stopped('none')} AND ${none} OR ${stopped(way)})`, values: [index, state, index, state] };
}

import type { Reason } from '../reasons/codes';
import { hops, type Hop, type HopRow, type HopState } from './types';

/** How far a strand came on one way in: the hops it made without a break, and how it stands at the next one. */
export interface Followed {
  /** Number of hops made, from 0; all of them is `hops.length`. */
  reached: number;
  /** State and reason at the hop after the last one made; null when all were made. */
  stop: { hop: Hop; state: HopState; reason: Reason | null } | null;
}

/** Of two ways to stand at a hop, the one that says most about a strand with several enquiries. */
const order: HopState[] = ['made_it', 'waiting', 'lost', 'left', 'unknown'];

/**
 * Follows a strand along its hops. A strand not made at one hop counts at none after it, except that Clicked may be
 * unknown where no click ID arrived. With several enquiries the one that came furthest speaks for the strand.
 */
export function followStrand(rows: HopRow[]): Followed {
  const subjects = new Set(rows.map((row) => row.subject));
  let best: Followed = { reached: 0, stop: null };
  for (const subject of subjects) {
    const own = rows.filter((row) => row.wayIn === 'none' || row.subject === subject);
    const followed = followOne(own);
    if (best.stop === null || comesFurther(followed, best)) best = followed;
    if (followed.stop === null) return followed;
  }
  return best;
}

function followOne(rows: HopRow[]): Followed {
  for (const [reached, hop] of hops.entries()) {
    const row = rows.find((r) => r.hop === hop);
    if (row?.state === 'made_it' || (hop === 'clicked' && row)) continue;
    return { reached, stop: { hop, state: row?.state ?? 'unknown', reason: row?.reason ?? null } };
  }
  return { reached: hops.length, stop: null };
}

function comesFurther(a: Followed, b: Followed): boolean {
  if (a.reached !== b.reached) return a.reached > b.reached;
  return order.indexOf(a.stop!.state) < order.indexOf(b.stop!.state);
}

import { lossClass, lossClasses, type Reason } from '../reasons/codes';
import type { ClickComparison } from './clicks';
import { beginsElsewhere, type WayIn } from '../ways-in';
import type { Hop, HopState } from './types';

/** Strands of the cohort that came equally far and stopped alike. */
export interface FollowedGroup {
  reached: number;
  state: HopState | null;
  reason: Reason | null;
  strands: number;
  /** Of these, how many belong to strands with a click ID. */
  withClickId: number;
}

export interface Loss {
  from: Hop;
  to: Hop;
  reason: Reason;
  strands: number;
  /** Proven: both sides seen. Inferred: from counts, there are no rows. */
  kind: 'proven' | 'inferred' | 'unexplained';
}

export interface Column {
  hop: Hop;
  /** Strands that made it; null where no count is known (Clicked without any report). */
  count: number | null;
  /** What became of those that made it here and not to the next hop. */
  lost: number;
  left: number;
  waiting: number;
  unknown: number;
  leftReasons: { reason: Reason; strands: number }[];
  waitingReasons: { reason: Reason; strands: number }[];
}

export interface Line {
  columns: Column[];
  losses: Loss[];
  /** Landings from campaigns without any click count; they join at Landed. */
  landedUncounted: number;
  /** Landings beyond the clicks that were reported for them. */
  surplus: number;
  /** Strands with a click ID that made it to each hop of the way in. */
  withClickId: Partial<Record<Hop, number>>;
}

/**
 * Counts the line of one cohort on one way in. From Landed on the columns always subtract: each column is the sum of the next one
 * and of those that were lost, left, wait or are unknown in between. Clicked is the platforms' own totals; what they
 * report beyond the landings is an inferred loss, a surplus of landings is said and never negative. A line that begins
 * elsewhere has rows for each of its hops.
 */
export function countLine(groups: FollowedGroup[], clicks: ClickComparison, way: WayIn): Line {
  const { hops } = way;
  const elsewhere = beginsElsewhere(way);
  const clicked = elsewhere ? noClicks : clicks;
  const columns = hops.map((hop, i): Column => {
    const made = i === 0 && !elsewhere ? [] : groups.filter((g) => g.reached > i);
    const stopped = groups.filter((g) => g.reached === i + 1 && g.state !== null);
    const withState = (state: HopState) => sum(stopped.filter((g) => g.state === state));
    return {
      hop,
      count: sum(made),
      lost: withState('lost'),
      left: withState('left'),
      waiting: withState('waiting'),
      unknown: withState('unknown'),
      leftReasons: byReason(stopped.filter((g) => g.state === 'left')),
      waitingReasons: byReason(stopped.filter((g) => g.state === 'waiting')),
    };
  });
  if (!elsewhere) columns[0] = { ...columns[0]!, count: clicked.clicks, lost: clicked.missing };
  const losses = [
    ...groups
      // Before Landed clicks come as totals, without strands of their own.
      .filter((g) => g.state === 'lost' && g.reached >= (elsewhere ? 1 : 2) && g.reached < hops.length)
      .map((g) => loss(hops, g.reached, g.reason ?? { code: 'unexplained' }, g.strands)),
    ...(clicked.missing > 0
      ? [{ ...loss(hops, 1, { code: 'unexplained' }, clicked.missing), kind: 'inferred' as const }]
      : []),
  ];
  return {
    columns,
    losses: mergeLosses(losses),
    landedUncounted: clicked.uncounted,
    surplus: clicked.surplus,
    withClickId: Object.fromEntries(
      hops.map((hop, i) => [hop, groups.reduce((total, g) => total + (g.reached > i ? g.withClickId : 0), 0)]),
    ),
  };
}

/** Where nobody counts clicks, none are compared with landings: on a line that begins elsewhere, and of a segment. */
export const noClicks: ClickComparison = { clicks: null, missing: 0, uncounted: 0, surplus: 0 };

function loss(hops: readonly Hop[], reached: number, reason: Reason, strands: number): Loss {
  return {
    from: hops[reached - 1]!,
    to: hops[reached]!,
    reason,
    strands,
    kind: reason.code === 'unexplained' ? 'unexplained' : 'proven',
  };
}

function sum(groups: { strands: number }[]): number {
  return groups.reduce((total, g) => total + g.strands, 0);
}

function byReason(groups: FollowedGroup[]): { reason: Reason; strands: number }[] {
  const totals = new Map<string, { reason: Reason; strands: number }>();
  for (const { reason, strands } of groups) {
    if (!reason) continue;
    // Waiting and leaving are told apart by what happened, not by its operands.
    const before = totals.get(reason.code);
    if (before) before.strands += strands;
    else totals.set(reason.code, { reason, strands });
  }
  return [...totals.values()].sort((a, b) => b.strands - a.strands);
}

/** One row a reason and place, the largest first; equal ones in the order of `lossClasses`. */
function mergeLosses(losses: Loss[]): Loss[] {
  const merged = new Map<string, Loss>();
  for (const row of losses) {
    const key = JSON.stringify([row.to, sameReason(row.reason), row.kind]);
    const before = merged.get(key);
    if (before) before.strands += row.strands;
    else merged.set(key, { ...row });
  }
  const rank = (row: Loss) => lossClasses.indexOf(lossClass(row.reason));
  return [...merged.values()].sort((a, b) => b.strands - a.strands || rank(a) - rank(b));
}

/** A reason without the operands that differ from row to row (the age of each click). */
function sameReason(reason: Reason): unknown {
  return reason.code === 'click_too_old' || reason.code === 'told_too_late'
    ? { code: reason.code, limit: reason.limit }
    : reason;
}

import { lossClass, lossClasses, type Reason } from '../reasons/codes';
import { hops, type Hop, type HopState } from './types';

/** Strands of the cohort that came equally far and stopped alike. */
export interface FollowedGroup {
  reached: number;
  state: HopState | null;
  reason: Reason | null;
  /** The source and campaign they were tagged with. */
  source: string;
  campaign: string;
  strands: number;
  /** Of these, how many belong to strands with a click ID. */
  withClickId: number;
}

/** A platform's own click total for one campaign in the chosen days. */
export interface ReportedClicks {
  source: string;
  campaign: string;
  clicks: number;
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
  /** Landings of campaigns whose clicks nobody reports; they begin at Landed. */
  landedUncounted: number;
  /** Landings beyond what the platform reported for their campaign. */
  surplus: number;
  /** Strands with a click ID that made it to each hop. */
  withClickId: Record<Hop, number>;
}

/**
 * Counts the line of one cohort. From Landed on the columns always subtract: each column is the sum of the next one
 * and of those that were lost, left, wait or are unknown in between. Clicked is the platforms' own totals; what they
 * report beyond the landings is an inferred loss, a surplus of landings is said and never negative.
 */
export function countLine(groups: FollowedGroup[], reported: ReportedClicks[]): Line {
  const columns = hops.map((hop, i): Column => {
    const made = i === 0 ? [] : groups.filter((g) => g.reached > i);
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
  const arrivals = compareClicks(groups, reported);
  columns[0] = { ...columns[0]!, count: arrivals.clicks, lost: arrivals.missing };
  const losses = [
    ...groups
      // Before Landed clicks come as totals, without strands of their own.
      .filter((g) => g.state === 'lost' && g.reached >= 2 && g.reached < hops.length)
      .map((g) => loss(g.reached, g.reason ?? { code: 'unexplained' }, g.strands)),
    ...(arrivals.missing > 0
      ? [{ ...loss(1, { code: 'unexplained' }, arrivals.missing), kind: 'inferred' as const }]
      : []),
  ];
  return {
    columns,
    losses: mergeLosses(losses),
    landedUncounted: arrivals.uncounted,
    surplus: arrivals.surplus,
    withClickId: Object.fromEntries(
      hops.map((hop, i) => [hop, groups.reduce((total, g) => total + (g.reached > i ? g.withClickId : 0), 0)]),
    ) as Record<Hop, number>,
  };
}

/** Campaign by campaign: clicks reported, landings missing, landings beyond the report, landings nobody counts. */
function compareClicks(groups: FollowedGroup[], reported: ReportedClicks[]) {
  const key = (row: { source: string; campaign: string }) => `${row.source}\u0000${row.campaign}`;
  const clicks = new Map<string, number>();
  for (const row of reported) clicks.set(key(row), (clicks.get(key(row)) ?? 0) + row.clicks);
  const landed = new Map<string, number>();
  for (const g of groups) if (g.reached >= 2) landed.set(key(g), (landed.get(key(g)) ?? 0) + g.strands);
  const total = { clicks: clicks.size > 0 ? 0 : null, missing: 0, surplus: 0, uncounted: 0 } as {
    clicks: number | null;
    missing: number;
    surplus: number;
    uncounted: number;
  };
  for (const [campaign, count] of clicks) {
    const arrived = landed.get(campaign) ?? 0;
    total.clicks = (total.clicks ?? 0) + count;
    total.missing += Math.max(0, count - arrived);
    total.surplus += Math.max(0, arrived - count);
  }
  for (const [campaign, count] of landed) if (!clicks.has(campaign)) total.uncounted += count;
  return total;
}

function loss(reached: number, reason: Reason, strands: number): Loss {
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

/** One row a reason and place, the largest first; equal ones in the order of loss rule 20. */
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

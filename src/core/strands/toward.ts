import { standToward } from '../leads/hops';
import type { ReachedBy } from '../outcomes/schema';
import { beginsElsewhere, type WayIn } from '../ways-in';
import { followStrand, type Followed } from './follow';
import type { FollowedGroup } from './line';
import { hopWords, nilId, noOutcome, type Hop, type HopRow, type Strand, type SubjectKind } from './types';

/*
 * A line that is narrowed to an outcome other than the Qualified of its way in. What is stored of strands' standings is by that
 * Qualified; up to where an outcome is counted both are the same.
 */

/** The hop at which a way in counts an outcome: Qualified, or where it has none what came in itself. */
export const countedHop = ({ hops, own }: WayIn): Hop => (hops.includes('qualified') ? 'qualified' : own);

/** The last hop that strands make whatever they are counted for; on a way without Qualified what came in itself. */
export const candidateHop = ({ hops, own }: WayIn): Hop =>
  hops.includes('qualified') ? hops[hops.indexOf('qualified') - 1]! : own;

/** Whether a hop says something else for each outcome. */
export const isFromCounted = (way: WayIn, hop: Hop): boolean =>
  way.hops.indexOf(hop) >= way.hops.indexOf(countedHop(way));

/** What a hop is called on a line that is narrowed to an outcome; '' for none. */
export const hopNameOf = (way: WayIn, outcome: string, hop: Hop): string =>
  outcome !== '' && hop === countedHop(way) ? outcome : hopWords[hop];

const reaching: Record<SubjectKind, ReachedBy['kind'][]> = {
  enquiry: ['stage', 'field'],
  order: ['order', 'postback'],
  subscription: ['postback'],
  conversion: ['event', 'page', 'file'],
};
/** Whether what comes in by some way can reach an outcome at all. */
export const canReach = ({ subject }: WayIn, { kind }: ReachedBy): boolean => reaching[subject].includes(kind);

/** How an enquiry, an order, a subscription or a conversion stands toward an outcome. */
export interface TowardOutcome {
  /** When (ms) it reached the outcome; null while it did not. */
  reachedAt: number | null;
  /** Told and Confirmed of it. */
  telling: HopRow[];
  /** Where the deal of an enquiry is. */
  stage: string;
}

/**
 * Follows a strand on a way in to an outcome.
 *
 * @param rows all of its hop rows on this way, with those up to Kept
 * @param toward how each of its subjects stands toward the outcome, by ID
 * @param clickDays how old the click may be; null where no rule says it any more
 * @returns also the rows that it was followed by
 */
export function followToward(
  { kind, firstAt }: Pick<Strand, 'kind' | 'firstAt'>,
  rows: readonly HopRow[],
  toward: ReadonlyMap<string, TowardOutcome>,
  { code, clickDays }: { code: string; clickDays: number | null },
  way: WayIn,
  now: number,
): { followed: Followed; rows: HopRow[] } {
  const shared = rows.filter(({ outcome }) => outcome === noOutcome);
  const isQualifying = way.hops.includes('qualified');
  const followed = shared.flatMap((row): HopRow[] => {
    const own = toward.get(row.subject);
    // Of what did not come to the outcome, the line of an outcome knows nothing more than that it was kept.
    if (!isQualifying && row.hop === way.own && row.subject !== nilId && (own?.reachedAt ?? null) === null)
      return [{ ...row, state: 'left', reason: null, evidence: 'none', at: null }];
    return [row];
  });
  for (const [subject, { reachedAt, telling, stage }] of toward) {
    const any = shared.find((row) => row.subject === subject);
    if (!any) continue;
    if (isQualifying) {
      const ended = rows.find((row) => row.subject === subject && row.hop === 'qualified' && row.state === 'left');
      const clickedAt = kind === 'click' && clickDays !== null ? firstAt : null;
      const { state, reason, at } = standToward(clickedAt, stage, ended ?? null, clickDays ?? 0, reachedAt, now);
      followed.push({ ...any, outcome: code, hop: 'qualified', state, reason, evidence: 'outcome', at });
    }
    followed.push(...telling);
  }
  return { followed: followStrand(followed, way), rows: followed };
}

/**
 * The groups of a line that is narrowed to an outcome: those of the line itself up to where an outcome is counted, and from there
 * on its strands as they stand toward the outcome.
 */
export function groupsToward(
  groups: readonly FollowedGroup[],
  strands: Iterable<{ followed: Followed; kind: Strand['kind'] }>,
  way: WayIn,
): FollowedGroup[] {
  const last = way.hops.indexOf(candidateHop(way));
  const counted = new Map<string, FollowedGroup>();
  const isClick = (kind: Strand['kind']) => beginsElsewhere(way) || kind === 'click';
  for (const { followed, kind } of strands) {
    const { reached, stop } = followed;
    const key = JSON.stringify([reached, stop?.state, stop?.reason]);
    const one = counted.get(key) ?? {
      reached,
      state: stop?.state ?? null,
      reason: stop?.reason ?? null,
      strands: 0,
      withClickId: 0,
    };
    one.strands += 1;
    one.withClickId += isClick(kind) ? 1 : 0;
    counted.set(key, one);
  }
  return [...groups.filter(({ reached }) => reached <= last), ...counted.values()];
}

/** Whether a strand is behind one number of such a line. @param hop one at or after `countedHop` */
export function isBehind(
  { reached, stop }: Followed,
  way: WayIn,
  hop: Hop,
  state: HopRow['state'],
  reason: string,
): boolean {
  if (state === 'made_it') return reached > way.hops.indexOf(hop);
  return stop?.hop === hop && stop.state === state && (reason === '' || stop.reason?.code === reason);
}

/** Whether a strand first made a hop within some days. */
export function madeHopWithin(rows: readonly HopRow[], hop: Hop, { from, to }: { from: number; to: number }): boolean {
  const times = rows.flatMap((row) => (row.hop === hop && row.state === 'made_it' && row.at !== null ? [row.at] : []));
  const first = Math.min(...times);
  return first >= from && first < to;
}

import { lossClass, lossClasses, type Reason } from '../reasons/codes';
import { waysIn, type WayIn } from '../ways-in';
import { nilId, noOutcome, onward, wayInKinds, type Hop, type HopRow, type HopState } from './types';

/** How far a strand came on one way in: the hops it made without a break, and how it stands at the next one. */
export interface Followed {
  /** Number of the way's hops made, from 0; all of them is `way.hops.length`. */
  reached: number;
  /** State and reason at the hop after the last one made; null when all were made. */
  stop: { hop: Hop; state: HopState; reason: Reason | null } | null;
}

/** Of two ways to stand at a hop, the one that says most about a strand with several enquiries. */
const order: HopState[] = ['made_it', 'waiting', 'lost', 'left', 'unknown'];

/**
 * Follows a strand along the hops of one way in. A strand not made at one hop counts at none after it, except that Clicked
 * may be unknown where no click ID arrived. Of several enquiries and outcomes one speaks for it; see `speakingRows`.
 */
export const followStrand = (rows: HopRow[], way: WayIn): Followed => followOne(speakingRows(rows, way), way);

/**
 * Of all rows of a strand those of the enquiry (or order) and outcome that came furthest on this way in, with those up to
 * Kept; of those equally far what says most, and of losses the first by `lossClasses`. The order of the rows says nothing.
 */
export const speakingRows = (rows: HopRow[], way: WayIn): HopRow[] =>
  cases(rows.filter(({ wayIn }) => wayIn === 'none' || wayIn === way.kind)).reduce((best, one) =>
    comesBefore(followOne(one, way), followOne(best, way)) ? one : best,
  );

/** How far a strand came on one way in; `none`: on all on which it has no standing of its own. */
export interface Standing {
  wayIn: HopRow['wayIn'];
  reached: number;
  state: HopState | null;
  reason: Reason | null;
}

/** How a strand stands on every way in: the standing that all share, up to Kept, and those that differ from it. */
export function standingsOf(rows: HopRow[]): [shared: Standing, ...own: Standing[]] {
  const standing = (wayIn: Standing['wayIn'], { reached, stop }: Followed): Standing => ({
    wayIn,
    reached,
    state: stop?.state ?? null,
    reason: stop?.reason ?? null,
  });
  const [first] = wayInKinds;
  const untilKept = rows.filter(({ wayIn }) => wayIn === 'none');
  const shared = standing('none', followStrand(untilKept, waysIn[first]));
  const own = wayInKinds
    .filter((kind) => rows.some(({ wayIn }) => wayIn === kind))
    .map((kind) => standing(kind, followStrand(rows, waysIn[kind])))
    .filter((one) => JSON.stringify({ ...one, wayIn: 'none' }) !== JSON.stringify(shared));
  return [shared, ...own];
}

/** The rows of each subject and outcome, the most particular first, with those that all share; else those alone. */
function cases(rows: HopRow[]): HopRow[][] {
  const isOf = (row: HopRow, subject: string) => row.wayIn === 'none' || row.subject === subject;
  return [...new Set([nilId, ...rows.map((row) => row.subject)])].flatMap((subject) => {
    const own = rows.filter((row) => isOf(row, subject));
    return [...new Set([noOutcome, ...own.map((row) => row.outcome)])].map((outcome) =>
      own.filter((row) => row.outcome === noOutcome || row.outcome === outcome).sort((a, b) => ownness(b) - ownness(a)),
    );
  });
}

/** How much a row is of its subject and outcome alone: where several say one hop, the most particular one counts. */
const ownness = (row: HopRow): number => 2 * Number(row.outcome !== noOutcome) + Number(row.subject !== nilId);

function followOne(rows: HopRow[], way: WayIn): Followed {
  for (const [reached, hop] of way.hops.entries()) {
    const row = rows.find((r) => r.hop === hop) ?? (hop === way.own ? rows.find((r) => r.hop === onward) : undefined);
    if (row?.state === 'made_it' || (hop === 'clicked' && row)) continue;
    return { reached, stop: { hop, state: row?.state ?? 'unknown', reason: row?.reason ?? null } };
  }
  return { reached: way.hops.length, stop: null };
}

function comesBefore(a: Followed, b: Followed): boolean {
  if (a.reached !== b.reached) return a.reached > b.reached;
  if (!a.stop || !b.stop) return false;
  const rank = ({ state, reason }: NonNullable<Followed['stop']>): [number, number] => [
    order.indexOf(state),
    lossClasses.indexOf(lossClass(reason)),
  ];
  const [[aState, aLoss], [bState, bLoss]] = [rank(a.stop), rank(b.stop)];
  if (aState !== bState) return aState < bState;
  if (aLoss !== bLoss) return aLoss < bLoss;
  // Alike in all that is counted: any order that is always the same.
  return JSON.stringify(a.stop.reason) < JSON.stringify(b.stop.reason);
}

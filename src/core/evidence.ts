import { counted } from './counted';

const minute = 60_000;
const hour = 60 * minute;
const day = 24 * hour;

/** A length of time (ms) in its largest whole unit: `26 min`, `2 h`, `12 days`. */
export function spanWords(ms: number): string {
  if (ms < minute) return 'a moment';
  if (ms < hour) return `${Math.floor(ms / minute)} min`;
  if (ms < 2 * day) return `${Math.floor(ms / hour)} h`;
  return counted(Math.floor(ms / day), 'day', 'days');
}

/** What is known of how often something was counted. */
export interface Evidence {
  /** ms; null where it never was. */
  lastAt: number | null;
  /** How often, and when first (ms), in the weeks that are looked at. */
  count: number;
  firstAt: number | null;
  /** Since when (ms) it is live; null where it is not. */
  liveSince: number | null;
}

/** How many usual waits must have passed before something is quiet. */
const quietAfter = 4;

/** The usual wait (ms) between two; null for fewer than five. */
const usualWait = ({ count, firstAt, lastAt }: Evidence): number | null =>
  count < 5 || firstAt === null || lastAt === null ? null : (lastAt - firstAt) / (count - 1);

/** True for something that was counted regularly and is not any more. @param after how many usual waits */
export function isQuiet(evidence: Evidence, now: number, after = quietAfter): boolean {
  const wait = usualWait(evidence);
  return wait !== null && evidence.lastAt !== null && now - evidence.lastAt > Math.max(day, after * wait);
}

/** Dated facts in place of a status word: "last counted 2 h ago", "none for 12 days, usually every 2 days". */
export function evidenceWords(evidence: Evidence, now: number, after = quietAfter): string {
  const { lastAt, liveSince } = evidence;
  if (lastAt === null) return liveSince === null ? 'not live' : `none yet, live ${spanWords(now - liveSince)}`;
  if (!isQuiet(evidence, now, after)) return `last counted ${spanWords(now - lastAt)} ago`;
  return `none for ${spanWords(now - lastAt)}, usually every ${spanWords(usualWait(evidence)!)}`;
}

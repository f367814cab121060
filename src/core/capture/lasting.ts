import { valueLastsUntil } from './kept-values';
import type { CaptureRules, Kept, KeptClick, Touch } from './schema';

const day = 86_400_000;

/** Until when (ms) a kept touch lasts: from itself, or from the last page seen, by the keep rule. */
export function touchLastsUntil(touch: Touch, seenAt: number, { keep }: CaptureRules): number {
  return (keep.touchAge === 'renewed' ? Math.max(touch.at, seenAt) : touch.at) + keep.touchDays * day;
}

/** Until when (ms) a kept click ID lasts; 0 for a platform that no rule knows any more. */
export function clickLastsUntil(click: KeptClick, { keep }: CaptureRules): number {
  const rule = keep.clickIds.find(({ platform }) => platform === click.platform);
  return rule ? click.at + rule.days * day : 0;
}

/** What is still kept at `now`. Where the first touch has ended the next that is still kept takes its place (rule 7). */
export function dropOld(kept: Kept, now: number, rules: CaptureRules): Kept {
  const seenAt = kept.visitor?.seenAt ?? 0;
  const lasting = (touch: Touch | null) => (touch && touchLastsUntil(touch, seenAt, rules) > now ? touch : null);
  const last = lasting(kept.last);
  return {
    visitor: kept.visitor,
    first: lasting(kept.first) ?? last,
    last,
    clicks: kept.clicks.filter((click) => clickLastsUntil(click, rules) > now),
    values: kept.values.filter((value) => valueLastsUntil(value, seenAt, rules) > now),
  };
}

/** What is kept with no time that lies after `now`: such a one came from a clock that was wrong (rule 4). */
export function notLaterThan({ visitor, first, last, clicks, values }: Kept, now: number): Kept {
  const upToNow = <One extends { at: number }>(one: One): One => (one.at > now ? { ...one, at: now } : one);
  const { visitAt = 0, seenAt = 0 } = visitor ?? {};
  return {
    visitor: visitor && { ...visitor, visitAt: Math.min(visitAt, now), seenAt: Math.min(seenAt, now) },
    first: first && upToNow(first),
    last: last && upToNow(last),
    clicks: clicks.map(upToNow),
    values: values.map(upToNow),
  };
}

/**
 * Click IDs without the one that gives way first: the oldest of a platform that has newer ones, else the oldest of all
 * (rules 2 and 4). The newest of all stays.
 */
export function withoutOldestClick(clicks: KeptClick[]): KeptClick[] {
  const byAge = [...clicks].sort((a, b) => a.at - b.at);
  const hasNewer = ({ platform }: KeptClick, age: number) =>
    byAge.some((other, place) => place > age && other.platform === platform);
  const oldest = byAge.find(hasNewer) ?? byAge[0];
  return clicks.length > 1 ? clicks.filter((click) => click !== oldest) : clicks;
}

/** The newest click ID kept for a platform, or null. */
export function newestClick(clicks: KeptClick[], platform?: string): KeptClick | null {
  let newest: KeptClick | null = null;
  for (const click of clicks)
    if ((!platform || click.platform === platform) && (!newest || click.at >= newest.at)) newest = click;
  return newest;
}

import { LRUCache } from 'lru-cache';
import type { OutcomeRule } from '../../core/outcomes/schema';
import type { Release } from '../../core/releases';
import { completenessOfWeeks } from '../../core/results/ripeness-words';
import type { Ripe, RipeQuery } from '../../core/results/ripeness-view';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { dayIn } from '../days';
import type { BusinessRow } from '../db';
import type { Membership } from '../people/people';
import { runInPool } from '../pool';
import type { Releases } from '../releases/releases';
import type { DaySpan } from '../strands/range';
import { longest } from './asked';
import { askedOfOutcome } from './asked-business';

/** How long (ms) it is said again without being worked out anew: a line is looked at often, and its ripeness moves by days. */
const keptFor = 300_000;

/**
 * How long outcomes take after their click, and how complete those of clicks in some days are by now.
 *
 * @returns null where too few have come to say
 */
export async function readRipe(
  context: Pick<Context, 'config'>,
  business: BusinessRow,
  release: Release,
  rule: OutcomeRule,
  days: DaySpan,
): Promise<Ripe | null> {
  const asked = { ...askedOfOutcome(context, business, release, rule, days), by: 'source' as const, limits: [] };
  const { all, weeks } = await runInPool('workOutRipeness', asked, longest);
  const complete = completenessOfWeeks(weeks);
  return all.half === null || all.nine === null || complete === null
    ? null
    : { half: all.half, nine: all.nine, complete };
}

/** The same for who looks at the line. */
export function makeRipeDays(context: Context, releases: Releases) {
  const known = new LRUCache<string, Promise<Ripe | null>>({ max: 200, ttl: keptFor });
  return async function ripeDays({ business }: Membership, { outcome, from, to }: RipeQuery): Promise<Ripe | null> {
    const release = await releases.live(business.id);
    const rule = release.content.outcomes.find(({ code }) => code === outcome);
    if (!rule) return null;
    const key = [business.id, release.number, outcome, from, to, dayIn(business.timeZone, nowMs())].join(' ');
    const before = known.get(key);
    if (before) return before;
    const answer = readRipe(context, business, release, rule, { firstDay: from, lastDay: to });
    known.set(key, answer);
    answer.catch(() => known.delete(key));
    return answer;
  };
}

import { queryValue, splitAddress } from './address';
import { keepValues, valueLastsUntil } from './kept-values';
import { decideTouch, type Arrival, type TouchDecision } from './touch';
import type { CaptureRules, Kept, KeptClick, Touch } from './schema';

const day = 86_400_000;

/** A link with it marks the browser that follows it as no customer's (need C11); `no` takes the mark off. */
export const markParameter = 'avx_no_customer';

/** Random IDs for a browser seen for the first time and for a visit that may begin now. */
export interface FreshIds {
  visitor: string;
  visit: string;
}

export interface Arrived {
  kept: Kept;
  decision: TouchDecision;
}

/** What a browser that was never here keeps. */
export function nothingKept(): Kept {
  return { visitor: null, first: null, last: null, clicks: [], values: [] };
}

/**
 * One arrival, whole: drops what is too old, decides the touch, and returns what is kept from now on. First touch is
 * the oldest still kept, last touch the newest that is not direct (touch rule 7). A click ID keeps the time of its
 * first sight; its age never slides (rule 4).
 */
export function arrive(before: Kept, arrival: Arrival, rules: CaptureRules, fresh: FreshIds): Arrived {
  const kept = dropOld(before, arrival.at, rules);
  const visitBegan = !kept.visitor || arrival.at - kept.visitor.seenAt >= rules.touch.visitMinutes * 60_000;
  const decision = decideTouch(arrival, kept.clicks, rules);
  const { touch } = decision;
  const address = splitAddress(arrival.address);
  const marks = address ? queryValue(address, markParameter) : '';
  return {
    decision,
    kept: {
      visitor: {
        id: kept.visitor?.id ?? fresh.visitor,
        visitId: visitBegan ? fresh.visit : kept.visitor!.visitId,
        visitAt: visitBegan ? arrival.at : kept.visitor!.visitAt,
        seenAt: Math.max(arrival.at, kept.visitor?.seenAt ?? 0),
        noCustomer: marks === '' ? Boolean(kept.visitor?.noCustomer) : marks !== 'no',
      },
      first: kept.first ?? touch,
      last: touch ?? kept.last,
      clicks: touch?.clickId ? [...kept.clicks, clickOf(touch)].slice(-20) : kept.clicks,
      values: keepValues(kept.values, address, arrival.at, rules),
    },
  };
}

function clickOf(touch: Touch): KeptClick {
  return { platform: touch.platform, clickId: touch.clickId, at: touch.at };
}

/** Until when (ms) a kept touch lasts: from itself, or from the last page seen, by the keep rule. */
export function touchLastsUntil(touch: Touch, seenAt: number, rules: CaptureRules): number {
  const from = rules.keep.touchAge === 'renewed' ? Math.max(touch.at, seenAt) : touch.at;
  return from + rules.keep.touchDays * day;
}

/** Until when (ms) a kept click ID lasts; 0 for a platform that no rule knows any more. */
export function clickLastsUntil(click: KeptClick, rules: CaptureRules): number {
  const rule = rules.keep.clickIds.find((r) => r.platform === click.platform);
  return rule ? click.at + rule.days * day : 0;
}

/** What is still kept at `now`. */
export function dropOld(kept: Kept, now: number, rules: CaptureRules): Kept {
  const seenAt = kept.visitor?.seenAt ?? 0;
  const lasting = (touch: Touch | null) => (touch && touchLastsUntil(touch, seenAt, rules) > now ? touch : null);
  return {
    visitor: kept.visitor,
    first: lasting(kept.first),
    last: lasting(kept.last),
    clicks: kept.clicks.filter((click) => clickLastsUntil(click, rules) > now),
    values: kept.values.filter((value) => valueLastsUntil(value, seenAt, rules) > now),
  };
}

/** The newest click ID kept for a platform, or null. */
export function newestClick(clicks: KeptClick[], platform?: string): KeptClick | null {
  let newest: KeptClick | null = null;
  for (const click of clicks)
    if ((!platform || click.platform === platform) && (!newest || click.at >= newest.at)) newest = click;
  return newest;
}

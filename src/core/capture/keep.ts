import { queryValue, splitAddress } from './address';
import { fitCookies, type GaveWay } from './cookies';
import { keepValues } from './kept-values';
import { dropOld, notLaterThan, withoutOldestClick } from './lasting';
import { decideTouch, type Arrival, type TouchDecision } from './touch';
import type { CaptureRules, Kept, KeptClick, Touch } from './schema';

/** A link with it marks the browser that follows it as no customer's; `no` takes the mark off. */
export const markParameter = 'avx_no_customer';
/** The newest that are kept, over all platforms (touch rule 4). */
const mostClicks = 20;

/** Random IDs for a browser seen for the first time and for a visit that may begin now. */
export interface FreshIds {
  visitor: string;
  visit: string;
}

export interface Arrived {
  kept: Kept;
  decision: TouchDecision;
  /** What the cookies could not hold. */
  gaveWay: GaveWay[];
}

/** What a browser that was never here keeps. */
export function nothingKept(): Kept {
  return { visitor: null, first: null, last: null, clicks: [], values: [] };
}

/**
 * One arrival, whole: drops what is too old, decides the touch, and returns what is kept from now on, no more than
 * cookies hold. First touch is the oldest still kept, last touch the newest that is not direct (touch rule 7). A click
 * ID keeps the time of its first sight; its age never slides (rule 4).
 *
 * @param known click IDs that this browser brought before, also where their cookies have ended
 */
export function arrive(
  before: Kept,
  arrival: Arrival,
  rules: CaptureRules,
  fresh: FreshIds,
  known: Pick<KeptClick, 'platform' | 'clickId'>[] = before.clicks,
): Arrived {
  const { at } = arrival;
  const { visitor, ...kept } = dropOld(notLaterThan(before, at), at, rules);
  const goesOn = visitor && at - visitor.seenAt < rules.touch.visitMinutes * 60_000 ? visitor : null;
  const decision = decideTouch(arrival, known, rules);
  const { touch } = decision;
  const address = splitAddress(arrival.address);
  const marks = address ? queryValue(address, markParameter) : '';
  // Of those of one moment the last is the newest: the one that the touch names.
  let clicks = [...kept.clicks, ...decision.clicks.map(clickOf).reverse()];
  while (clicks.length > mostClicks) clicks = withoutOldestClick(clicks);
  const fitted = fitCookies(
    {
      visitor: {
        id: visitor?.id ?? fresh.visitor,
        visitId: goesOn?.visitId ?? fresh.visit,
        visitAt: goesOn?.visitAt ?? at,
        seenAt: at,
        noCustomer: marks === '' ? Boolean(visitor?.noCustomer) : marks !== 'no',
      },
      first: kept.first ?? touch,
      last: touch ?? kept.last,
      clicks,
      values: keepValues(kept.values, address, at, rules),
    },
    at,
    rules,
  );
  return { ...fitted, decision };
}

const clickOf = ({ platform, clickId, at }: Touch): KeptClick => ({ platform, clickId, at });

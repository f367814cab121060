import { cleanAddress, cleanArrival, piiIn, type PiiRules } from './pii';
import type { Hit, PiiFound, Touch } from './schema';

/** Signs without which nothing in a text is encoded, a mail address or a telephone number. */
const signs = /[@%+ ]|[=/?#&]0/;
const listed = new WeakMap<object, RegExp | null>();

/** False where nothing in what a page sent can say who somebody is: almost always, and told in a few microseconds. */
export function mayHoldPii(body: string, { pii }: PiiRules): boolean {
  let names = listed.get(pii);
  if (names === undefined) {
    const escaped = pii.names.map((name) => name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
    names = escaped.length > 0 ? new RegExp(`[?&#](?:${escaped.join('|')})=[^&#"]`, 'i') : null;
    listed.set(pii, names);
  }
  return signs.test(body) || Boolean(names?.test(body));
}

/** A hit as the page should have sent it: cleaned again, whoever sent it, with what was found added to what the page found. */
export function cleanHit(hit: Hit, rules: PiiRules): Hit {
  const { address, referrer, found: again } = cleanArrival(hit, rules);
  const { first, last, values } = hit.kept;
  const kept = {
    ...{ ...hit.kept, first: first && cleanTouch(first, rules), last: last && cleanTouch(last, rules) },
    ...(values ? { values: values.filter(({ value }) => !piiIn(value)) } : {}),
  };
  const found: PiiFound[] = [...(hit.pii ?? []), ...again];
  return {
    ...{ ...hit, address, referrer, kept },
    ...(found.length > 0 ? { pii: found.slice(0, 20) } : {}),
  };
}

function cleanTouch(touch: Touch, rules: PiiRules): Touch {
  const value = (text: string) => (piiIn(text) ? '' : text);
  const place = (text: string) => (text === '' ? '' : cleanAddress(`https://${text}`, rules).address.slice(8));
  return {
    ...touch,
    ...{ source: value(touch.source), medium: value(touch.medium), campaign: value(touch.campaign) },
    ...{ content: value(touch.content), term: value(touch.term), utmId: value(touch.utmId) },
    ...{ referrer: place(touch.referrer), landing: place(touch.landing) },
  };
}

import { cleanAddress, cleanArrival, listedNames, piiIn, type PiiRules } from './pii';
import type { Hit, PiiFound, Touch } from './schema';

/** Signs of mail addresses, telephone numbers and escapes; in what pages send nearly always none stands. */
const signs =
  /[@%+(\\]|tel|phone|mob|cell|fax|gsm|handy|msisdn|[\s=/?#&;"](?:00[1-9]|(?:0\d{1,4}|1|[2-9]\d\d)[\s./-])/i;

/** False where nothing in what a page sent can be personal data: almost always, and told in a few microseconds. */
export const mayHoldPii = (body: string, rules: PiiRules): boolean =>
  signs.test(body) || Boolean(listedNames(rules)?.test(body));

/** A hit as the page should have sent it: cleaned again, whoever sent it, with what was found added to what the page found. */
export function cleanHit(hit: Hit, rules: PiiRules): Hit {
  const { address, referrer, found: again } = cleanArrival(hit, rules);
  const { first, last, values } = hit.kept;
  const kept: Hit['kept'] = {
    ...hit.kept,
    first: first && cleanTouch(first, rules),
    last: last && cleanTouch(last, rules),
  };
  if (values) kept.values = values.filter(({ name, value }) => !piiIn(value, name));
  const found: PiiFound[] = [...(hit.pii ?? []), ...again];
  const cleaned: Hit = { ...hit, address, referrer, kept };
  if (found.length > 0) cleaned.pii = found.slice(0, 20);
  return cleaned;
}

function cleanTouch(touch: Touch, rules: PiiRules): Touch {
  const value = (text: string) => (piiIn(text) ? '' : text);
  const place = (text: string) => (text === '' ? '' : cleanAddress(`https://${text}`, rules).address.slice(8));
  return {
    ...touch,
    source: value(touch.source),
    medium: value(touch.medium),
    campaign: value(touch.campaign),
    content: value(touch.content),
    term: value(touch.term),
    utmId: value(touch.utmId),
    referrer: place(touch.referrer),
    landing: place(touch.landing),
  };
}

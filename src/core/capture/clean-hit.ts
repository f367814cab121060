import { cleanAddress, cleanArrival, listedNames, piiIn, type PiiRules } from './pii';
import type { Hit, PiiFound, Touch } from './schema';

/** Signs of mail addresses, telephone numbers and escapes. One look for each is faster than one for all of them. */
const signs = [
  /[@%+(]/,
  /tel:/i,
  /=[\s()./-]*\d(?:[\s()./-]*\d){5}/,
  /[\s=/?#&;"](?:00[1-9]|(?:0\d{1,4}|1|[2-9]\d\d)[\s./-])/,
];

const textOf = (touch: Touch | null): string =>
  touch === null
    ? ''
    : `"${touch.source}"${touch.medium}"${touch.campaign}"${touch.content}"${touch.term}"${touch.utmId}"${touch.referrer}"${touch.landing}`;

/** False where nothing in a hit can be personal data: almost always, and told in a few microseconds. */
export function mayHoldPii({ address, referrer, kept }: Hit, rules: PiiRules): boolean {
  const values = kept.values?.map(({ name, value }) => `"${name}=${value}`).join('') ?? '';
  const [first, last] = [textOf(kept.first), textOf(kept.last)];
  const text = `"${address}"${referrer}${first}${last === first ? '' : last}${values}`;
  return signs.some((sign) => sign.test(text)) || Boolean(listedNames(rules)?.test(text));
}

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

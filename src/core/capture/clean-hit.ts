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
export function mayHoldPii(hit: Hit, rules: PiiRules): boolean {
  const { address, referrer, kept } = hit;
  const values = kept.values?.map(({ name, value }) => `"${name}=${value}`).join('') ?? '';
  const [first, last] = [textOf(kept.first), textOf(kept.last)];
  const text = `"${address}"${referrer}${first}${last === first ? '' : last}${values}${ownTexts(hit).join('"')}`;
  return signs.some((sign) => sign.test(text)) || Boolean(listedNames(rules)?.test(text));
}

/** What only hits of its kind say, as far as a page could put somebody's data into it. */
function ownTexts(hit: Hit): string[] {
  if (hit.kind === 'handed') return [hit.key];
  if (hit.kind === 'event') return [hit.key, ...hit.reads.map(({ value }) => value)];
  if (hit.kind !== 'pressed') return [];
  const { link, text, id, name, data } = hit.press;
  return [link, text, id, name, ...data.map(([, value]) => value)];
}

const without = (text: string): string => (piiIn(text) ? '' : text);

/** The same of what only its kind says. Where a link dials a number, the number is the website's own. */
function cleanOwn(hit: Hit, rules: PiiRules): Hit {
  // A page lets nothing go off by such a key: what comes with one is counted together.
  if (hit.kind === 'event' || hit.kind === 'handed') hit = { ...hit, key: without(hit.key) || 'removed' };
  if (hit.kind === 'event')
    return { ...hit, reads: hit.reads.map(({ reading, value }) => ({ reading, value: without(value) })) };
  if (hit.kind !== 'pressed') return hit;
  const { press } = hit;
  const link = /^https?:/.test(press.link) ? cleanAddress(press.link, rules).address : press.link;
  return {
    ...hit,
    press: {
      ...press,
      link: link.startsWith('mailto:') ? 'mailto:' : link,
      id: without(press.id),
      name: without(press.name),
      text: without(press.text),
      data: press.data.map(([name, value]) => [name, without(value)]),
    },
  };
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
  const cleaned: Hit = { ...cleanOwn(hit, rules), address, referrer, kept };
  if (found.length > 0) cleaned.pii = found.slice(0, 20);
  return cleaned;
}

function cleanTouch(touch: Touch, rules: PiiRules): Touch {
  const place = (text: string) => (text === '' ? '' : cleanAddress(`https://${text}`, rules).address.slice(8));
  return {
    ...touch,
    source: without(touch.source),
    medium: without(touch.medium),
    campaign: without(touch.campaign),
    content: without(touch.content),
    term: without(touch.term),
    utmId: without(touch.utmId),
    referrer: place(touch.referrer),
    landing: place(touch.landing),
  };
}

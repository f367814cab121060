import { decodePart, isUnder, splitAddress } from './address';
import type { CaptureRules, PiiFound } from './schema';

/** How often a text may have been encoded before it is looked at; what is hidden deeper no program reads by accident. */
const layers = 4;
const mail = /[^\s@/=&?#:;,<>()"]+@[^\s@/=&?#:;,<>()"]+\.[a-z]{2,}/i;
const telephone = /^\s*(?:\+|00|\s|(?=0))[\s\d().-]{8,20}$/;

/**
 * What of a text says who somebody is, however often it was encoded: a mail address anywhere in it, or a telephone
 * number that is all of it (9 to 15 digits that begin with + or 0; a + may have become a space). '' where nothing does.
 */
export function piiIn(text: string): PiiFound['kind'] | '' {
  for (let layer = 0, now = text; layer < layers; layer++) {
    if (mail.test(now)) return 'mail';
    const digits = now.replace(/\D/g, '').length;
    if (digits > 8 && digits < 16 && telephone.test(now)) return 'telephone';
    const next = decodePart(now);
    if (next === now) break;
    now = next;
  }
  return '';
}

export type PiiRules = Pick<CaptureRules, 'keep' | 'touch' | 'carry' | 'pii'>;

/**
 * An address without what says who somebody is (need C8): such values of the query, and those under listed names, are
 * emptied, such parts of the path become `removed`, such a fragment and a user name are taken off. Click IDs are never
 * altered unless a mail address stands in them; nothing else of the address is. Cleaning twice equals cleaning once.
 *
 * @returns the address and what was found, by place and query name; never the content
 */
export function cleanAddress(address: string, { keep, carry, pii }: PiiRules): { address: string; found: PiiFound[] } {
  const found: PiiFound[] = [];
  const see = (place: PiiFound['place'], name: string, kind: PiiFound['kind']) =>
    found.push({ place, name: name.slice(0, 60), kind });
  const [, head = '', query, fragment] = /^([^?#]*)(?:\?([^#]*))?(?:#(.*))?$/s.exec(address) ?? [];
  const clickNames = [...keep.clickIds.map(({ parameter }) => parameter), ...carry.map(({ name }) => name)];

  /** A pair of a query with its value emptied where that says who somebody is; null where its name does. */
  const cleanPair = (pair: string, place: PiiFound['place']): string | null => {
    const at = pair.indexOf('=');
    const name = decodePart(at < 0 ? pair : pair.slice(0, at));
    const value = at < 0 ? '' : pair.slice(at + 1);
    const [nameKind, kind] = [piiIn(name), piiIn(value)];
    if (nameKind) {
      see(place, '', nameKind);
      return null;
    }
    const isListed = value !== '' && pii.names.includes(name.toLowerCase());
    if (!isListed && (kind === '' || (kind === 'telephone' && clickNames.includes(name)))) return pair;
    see(place, name, kind || 'listed');
    return pair.slice(0, at + 1);
  };
  const cleanPairs = (text: string, place: PiiFound['place']): string =>
    text
      .split('&')
      .flatMap((pair) => cleanPair(pair, place) ?? [])
      .join('&');

  /** A fragment is taken off whole: what it means is the page's own affair. */
  const cleanFragment = (text: string): string => {
    const pairs = text.replace(/^.*\?/s, '');
    if (cleanPairs(pairs, 'fragment') !== pairs) return '';
    const kind = piiIn(text);
    if (kind) see('fragment', '', kind);
    return kind ? '' : text;
  };

  const [, scheme = '', user = '', rest = head] = /^([a-z][a-z0-9+.-]*:\/\/)([^/@]*@)?(.*)$/is.exec(head) ?? [];
  if (user) see('user', '', piiIn(user + rest) || 'listed');
  const [host = '', ...parts] = rest.split('/');
  const path = parts.map((part) => {
    const kind = piiIn(part);
    if (kind) see('path', '', kind);
    return kind ? 'removed' : part;
  });
  const search = query === undefined ? '' : `?${cleanPairs(query, 'query')}`;
  const hash = fragment === undefined ? '' : `#${cleanFragment(fragment)}`;
  return { address: scheme + [host, ...path].join('/') + search + hash, found };
}

/**
 * The addresses of an arrival, cleaned, with what was found in either. What stands in the referrer of a page of one's
 * own was found when that page was open.
 */
export function cleanArrival(arrival: { address: string; referrer: string }, rules: PiiRules) {
  const address = cleanAddress(arrival.address, rules);
  const referrer = cleanAddress(arrival.referrer, rules);
  const fromOwn = rules.touch.ownHosts.some((own) => isUnder(splitAddress(arrival.referrer)?.host ?? '', own));
  return {
    ...{ address: address.address, referrer: referrer.address },
    found: fromOwn ? address.found : [...address.found, ...referrer.found],
  };
}

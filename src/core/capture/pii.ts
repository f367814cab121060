import { decodePart, isUnder, splitAddress } from './address';
import type { CaptureRules, PiiFound } from './schema';

/*
 * Every pattern here reads a text once from its beginning to its end: what can follow one part of a pattern is never
 * part of it, or at most some characters long, so that the work grows with the length of an address and no faster.
 */

/** How often a text is decoded to look for nested addresses. What is encoded deeper no program reads by accident. */
const layers = 10;
/** A mail address: any script and top-level domain (RFC 6531); no name of a picture for fine screens (`@2x.png`). */
const mail = /[^\s@/=&?#:;,<>()]@(?!\dx\.)[^\s@/=&?#:;,<>()"]+[.\u3002](?:xn--|\p{L}[\p{L}\p{M}])/iu;
/** A number that is said to be a telephone's, by `tel:`, by its name, or by a + before it; anywhere in a text. */
const said =
  /(?:\btel:|(?:(?:phone|telefo+n)\w{0,20}|(?:^|[^a-z])(?:tel|mob|mobile|cell|fax|gsm|handy|msisdn)(?:[_.-]?(?:n[or]|num|number))?\d?)\]?=)\s*\+?(?:[\s()./-]*\d){6,15}(?!\w)|(?:^|[\s=])\+(?!\d+\.\d+$)[1-9](?:[\s()./-]*\d){8,14}(?![\w.])/i;
/**
 * A number that is grouped as telephone numbers are, with an extension or without, of nine digits or more: 00 and a
 * country, brackets, an area code with its 0, three and three and four. No date.
 */
const grouped =
  /^(?=(?:\D*\d){9})(?!\d\d?\D\d\d?\D(?:19|20)\d\d\b)(?:00[1-9]\d{9,14}|00[\s.-]?[1-9]\d*[\s(./-][\d\s()./-]{5,}|[\d\s.-]{0,7}\(\d{1,5}\)[\d\s./-]{5,}|0\d{1,4}(?:[\s/-]+\d{5,8}|[\s./-]+\d{2,4}(?:[\s.-]+\d{2,4}){1,3})(?:-\d{1,4})?|(?:1[\s.-])?[2-9]\d\d([\s.-])[2-9]\d\d\1\d{4})(?:[\s;,]*(?:ext\S*|x|#)\s*\d{1,6})?$/i;
/** Without any of these no text is personal data, but for listed names. */
const signs = /[@%+\d]/;

/**
 * What of a text is personal data, however often it was encoded: a mail address or a number called a telephone's
 * anywhere in it, a telephone number that is all of it, or the value of a listed name in a nested address. '' where
 * nothing is.
 *
 * @param name the query name under which it stands
 * @param listed the pattern of listed names; see `listedNames`
 */
export function piiIn(text: string, name = '', listed: RegExp | null = null): PiiFound['kind'] | '' {
  let found: PiiFound['kind'] | '' = '';
  for (let layer = 0, now = text; layer < layers; layer++) {
    const pair = `${name}=${now}`;
    if (listed?.test(pair)) found = 'listed';
    if (!signs.test(pair)) break;
    if (mail.test(now)) return 'mail';
    // As it came, every + but the first is a space.
    const spaced = (layer > 0 ? now : now.replace(/(?!^)\+/g, ' ')).trim();
    if (now.length > 5 && (said.test(`${name}=${spaced}`) || (now.length < 60 && grouped.test(spaced))))
      return 'telephone';
    const next = decodePart(now);
    if (next === now) break;
    now = next;
  }
  return found;
}

export type PiiRules = Pick<CaptureRules, 'keep' | 'touch' | 'carry' | 'pii'>;

const patterns = new WeakMap<object, RegExp | null>();

/** A pattern of the listed names with a value, at the beginning of a text or in an address within it; null without any. */
export function listedNames({ pii }: Pick<PiiRules, 'pii'>): RegExp | null {
  let pattern = patterns.get(pii);
  if (pattern === undefined) {
    const names = pii.names.map((name) => name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
    pattern =
      names.length > 0 ? new RegExp(`(?:^|[?&;#/\\s[.="])(?:${names.join('|')})(?:\\[?\\])?=[^&;#\\s"]`, 'i') : null;
    patterns.set(pii, pattern);
  }
  return pattern;
}

/**
 * An address without personal data: such values of the query, and those under listed names,
 * are emptied, such parts of the path become `removed`, such a fragment and a user name are taken off. Click IDs and
 * everything else stay as they stand. Cleaning twice equals cleaning once.
 *
 * @returns the address and what was found, by place and query name; never the content
 */
export function cleanAddress(address: string, rules: PiiRules): { address: string; found: PiiFound[] } {
  const found: PiiFound[] = [];
  const see = (place: PiiFound['place'], name: string, kind: PiiFound['kind']) =>
    found.push({ place, name: name.slice(0, 60), kind });
  const [, head = '', query, fragment] = /^([^?#]*)(?:\?([^#]*))?(?:#(.*))?$/s.exec(address) ?? [];
  const listed = listedNames(rules);
  if (!signs.test(address) && !listed?.test(address)) return { address, found };
  const clickNames = [
    ...rules.keep.clickIds.flatMap(({ parameter, alsoAs }) => [parameter, ...alsoAs]),
    ...rules.carry.map(({ name }) => name),
  ];

  /** A pair of a query with its value emptied where that is personal data; null where its name is. */
  const cleanPair = (pair: string, place: PiiFound['place']): string | null => {
    const at = pair.indexOf('=');
    const name = decodePart(at < 0 ? pair : pair.slice(0, at));
    if (clickNames.includes(name)) return pair;
    const nameKind = piiIn(name);
    const kind = nameKind || (at < 0 ? '' : piiIn(pair.slice(at + 1), name, listed));
    if (kind) see(place, nameKind ? '' : name, kind);
    return nameKind ? null : kind ? pair.slice(0, at + 1) : pair;
  };
  const cleanPairs = (text: string, place: PiiFound['place']): string =>
    text
      .split('&')
      .flatMap((pair) => cleanPair(pair, place) ?? [])
      .join('&');

  /** A fragment is taken off whole: what it means is the page's own affair. */
  const cleanFragment = (text: string): string => {
    const pairs = text.replace(/^[^?]*\?/s, '');
    if (cleanPairs(pairs, 'fragment') !== pairs) return '';
    const kind = piiIn(text, '', listed);
    if (kind) see('fragment', '', kind);
    return kind ? '' : text;
  };

  const [, scheme = '', user = '', rest = head] = /^([a-z][a-z0-9+.-]*:\/\/)([^/@]*@)?(.*)$/is.exec(head) ?? [];
  if (user) see('user', '', piiIn(user + rest) || 'listed');
  const [host = '', ...parts] = rest.split('/');
  const path = parts.map((part) => {
    const kind = piiIn(part, '', listed);
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
    address: address.address,
    referrer: referrer.address,
    found: fromOwn ? address.found : [...address.found, ...referrer.found],
  };
}

import { hostOf, isUnder, queryValue, splitAddress } from './address';
import { cookieBytes, writeKept } from './cookies';
import { expectedValue } from './kept-values';
import { findClickId, isOwnLinkTagged, type Arrival } from './touch';
import type { ArrivedHit, CaptureRules, PiiFound } from './schema';

/** What can be wrong, or worth knowing, with one arrival. */
export const findingKinds = [
  'pii',
  'own_link_tagged',
  'click_id_gone',
  'carried',
  'carry_differs',
  'click_id_odd',
  'placeholder',
  'value_odd',
  'cookies_large',
  'snippet_twice',
  'page_silent',
  'restored',
] as const;
export type FindingKind = (typeof findingKinds)[number];

/** One finding of one arrival. Contents that say who somebody is never stand in it. */
export interface Finding {
  kind: FindingKind;
  /** The query name it concerns; for `own_link_tagged` the medium that the link carries. */
  name: string;
  /** Host and path: where it arrived, for `own_link_tagged` where the link stands. */
  page: string;
  campaign: string;
  /** What kind of PII, or which placeholder; else ''. */
  detail: string;
}

/** Characters of click IDs; another in one is kept and reported (touch rule 6). */
const usualClickId = /^[\w.~-]{4,300}$/;
const longest = 200;
/** Bytes of cookies from which on a visit is reported, of the 4,096 that browsers are sure to hold. */
const warnedFrom = 3500;
/** Bytes of the visitor's own cookie. */
const visitorBytes = 120;

/** Bytes that what a hit says is kept takes in cookies. */
export const keptBytes = (
  { first, last, clicks, values = [] }: ArrivedHit['kept'],
  now: number,
  rules: CaptureRules,
): number => cookieBytes(writeKept({ visitor: null, first, last, clicks, values }, now, rules)) + visitorBytes;

/** Everything one arrival shows of faults in links and pages, by the rules of its release. `placeholders`: texts that platforms should have filled in. */
export function findingsOf(hit: ArrivedHit, rules: CaptureRules, placeholders: string[]): Finding[] {
  const address = splitAddress(hit.address);
  if (!address || hit.navigation !== 'navigate') return [];
  const page = (address.host + address.path).slice(0, longest);
  const campaign = queryValue(address, 'utm_campaign').slice(0, longest);
  const found: Finding[] = (hit.pii ?? []).map(({ name, kind, place }: PiiFound) => ({
    ...{ kind: 'pii' as const, name: name || place, page, campaign, detail: kind },
  }));
  const add = (kind: FindingKind, name: string, rest: Partial<Finding> = {}) =>
    found.push({ kind, name, page, campaign, detail: '', ...rest });

  const arrival: Arrival = { at: hit.at, address: hit.address, referrer: hit.referrer, navigation: hit.navigation };
  const from = splitAddress(hit.referrer);
  if (isOwnLinkTagged(arrival, rules))
    add('own_link_tagged', queryValue(address, 'utm_medium').slice(0, 60), {
      page: from ? (from.host + from.path).slice(0, longest) : page,
    });

  const click = findClickId(address, rules);
  if (click?.carriedAs) add('carried', click.carriedAs);
  if (click && !usualClickId.test(click.value)) add('click_id_odd', click.carriedAs || click.rule.parameter);
  for (const { platform, name } of rules.carry) {
    const carried = queryValue(address, name);
    if (click && !click.carriedAs && click.rule.platform === platform && carried !== '' && carried !== click.value)
      add('carry_differs', name);
  }
  if (!click) {
    const [source, medium] = [queryValue(address, 'utm_source'), queryValue(address, 'utm_medium')];
    // A click that the platform charges for always brings its ID; where only the tags came, something took it out.
    const charged = rules.keep.clickIds.find(
      (rule) => rule.medium !== '' && rule.source === source && rule.medium === medium,
    );
    const fromOwn = rules.touch.ownHosts.some((own) => isUnder(hostOf(hit.referrer), own));
    if (charged && !fromOwn) add('click_id_gone', charged.parameter);
  }
  for (const rule of rules.keep.values) {
    const value = queryValue(address, rule.name);
    if (value !== '' && expectedValue(value, rule) === '') add('value_odd', rule.name);
  }
  const size = keptBytes(hit.kept, hit.at, rules);
  if (size > warnedFrom) add('cookies_large', '', { detail: String(size) });
  if (hit.lines) add('snippet_twice', '');
  if (hit.restored) add('restored', hit.restored);
  for (const [name, value] of address.query) {
    const text = placeholders.find((placeholder) => value.includes(placeholder));
    if (text) add('placeholder', name.slice(0, 60), { detail: text });
  }
  return found;
}

/**
 * The page that an arrival came from, where it is one of the website's own that told of nothing itself: its line is
 * missing, or it did not run (host and path; null otherwise).
 *
 * @param seen pages that this browser told of before
 */
export function silentPage(hit: ArrivedHit, seen: ReadonlySet<string>): string | null {
  const [here, from] = [splitAddress(hit.address), splitAddress(hit.referrer)];
  // To another host browsers name no path, so only the same host tells which page it was.
  if (!here || !from || hit.navigation !== 'navigate' || here.host !== from.host) return null;
  const page = from.host + from.path;
  return seen.has(page) ? null : page.slice(0, longest);
}

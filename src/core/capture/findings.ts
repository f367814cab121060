import {
  cut,
  decodeEscapes,
  hostOf,
  isUnder,
  pageOf,
  queryPair,
  queryValue,
  splitAddress,
  tagValue,
  type SplitAddress,
} from './address';
import { cookieBytes, writeKept, type GaveWay } from './cookies';
import { expectedValue } from './kept-values';
import { findClickIds, isToldAgain, longestClickId, ownLinkFault, type Arrival } from './touch';
import type { ArrivedHit, CaptureRules, TouchWhy } from './schema';

/** What can be wrong, or worth knowing, with one arrival. */
export const findingKinds = [
  'pii',
  'own_link_tagged',
  'own_link_click_id',
  'click_id_gone',
  'carried',
  'carry_differs',
  'carry_empty',
  'click_id_odd',
  'click_id_long',
  'placeholder',
  'value_odd',
  'cookies_large',
  'cookies_full',
  'snippet_twice',
  'page_silent',
  'restored',
] as const;
export type FindingKind = (typeof findingKinds)[number];

/** One finding of one arrival. Contents that say who somebody is never stand in it. */
export interface Finding {
  kind: FindingKind;
  /** The query name it concerns; for `own_link_tagged` the link’s medium, for `cookies_full` what gave way. */
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
const longestName = 60;
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

/** What was decided of an arrival: why it started a touch or none, and what its cookies could not hold. */
export interface DecidedArrival {
  because: TouchWhy;
  gaveWay: GaveWay[];
}

/**
 * Everything one arrival shows of faults in links and pages, by the rules of its release.
 *
 * @param placeholders texts that platforms should have filled in
 */
export function findingsOf(
  hit: ArrivedHit,
  decided: DecidedArrival,
  rules: CaptureRules,
  placeholders: string[],
): Finding[] {
  const address = splitAddress(hit.address);
  if (!address) return [];
  const page = pageOf(hit.address);
  const campaign = cut(tagValue(address, 'utm_campaign', rules.tagCarry), longest);
  const found: Finding[] = [];
  const add = (kind: FindingKind, name: string, rest: Partial<Finding> = {}) =>
    found.push({ kind, name: cut(name, longestName), page, campaign, detail: '', ...rest });

  const clicks = findClickIds(address, rules);
  const isAgain = isToldAgain(hit.navigation);
  // A page that is told again shows again what it showed; new is only a click ID that first came with it.
  if (!isAgain || decided.because === 'click_id_new')
    for (const { rule, value, carriedAs, isCut } of clicks) {
      const name = carriedAs || rule.parameter;
      if (isCut) add('click_id_long', name);
      else if (!usualClickId.test(value)) add('click_id_odd', name);
    }
  for (const what of decided.gaveWay) add('cookies_full', what);
  if (isAgain) return found;

  for (const { name, kind, place } of hit.pii ?? []) add('pii', name || place, { detail: kind });
  const arrival: Arrival = { at: hit.at, address: hit.address, referrer: hit.referrer, navigation: hit.navigation };
  const ownLink = ownLinkFault(arrival, decided, rules);
  const linkStandsOn = pageOf(hit.referrer) || page;
  if (ownLink === 'own_link_tagged')
    add(ownLink, tagValue(address, 'utm_medium', rules.tagCarry), { page: linkStandsOn });
  if (ownLink === 'own_link_click_id') add(ownLink, clicks[0]!.rule.parameter, { page: linkStandsOn });

  for (const { carriedAs } of clicks) if (carriedAs) add('carried', carriedAs);
  for (const { platform, name } of rules.carry) {
    if (address.query.some(([key, value]) => key === name && value === '')) add('carry_empty', name);
    const click = clicks.find(({ rule, carriedAs }) => rule.platform === platform && !carriedAs);
    const carried = decodeEscapes(queryPair(address, name)?.[2] ?? '');
    if (click && carried !== '' && cut(carried, longestClickId) !== click.value) add('carry_differs', name);
  }
  const gone = clicks.length === 0 && goneClickId(address, hit.referrer, rules);
  if (gone) add('click_id_gone', gone);
  for (const rule of rules.keep.values) {
    const value = queryValue(address, rule.name);
    if (value !== '' && expectedValue(value, rule) === '') add('value_odd', rule.name);
  }
  const size = keptBytes(hit.kept, hit.at, rules);
  // Where something gave way that is said already.
  if (size > warnedFrom && decided.gaveWay.length === 0) add('cookies_large', '', { detail: String(size) });
  if (hit.lines) add('snippet_twice', '');
  if (hit.restored) add('restored', hit.restored);
  for (const [name, value] of address.query) {
    const text = placeholders.find((placeholder) => value.includes(placeholder));
    if (text) add('placeholder', name, { detail: text });
  }
  return found;
}

/**
 * The parameter of a click ID that something took out: a click that the platform charges for always brings one, and here
 * only its tags came. Null where none is missed, or the platform left its place unfilled.
 */
function goneClickId(address: SplitAddress, referrer: string, { keep, touch, tagCarry }: CaptureRules): string | null {
  const [source, medium] = [tagValue(address, 'utm_source', tagCarry), tagValue(address, 'utm_medium', tagCarry)];
  const charged = keep.clickIds.find((rule) => rule.medium !== '' && rule.source === source && rule.medium === medium);
  const fromOwn = touch.ownHosts.some((own) => isUnder(hostOf(referrer), own));
  const came = charged && [charged.parameter, ...charged.alsoAs].some((name) => queryValue(address, name) !== '');
  return charged && !fromOwn && !came ? charged.parameter : null;
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
  if (!here || !from || isToldAgain(hit.navigation) || here.host !== from.host) return null;
  const page = pageOf(hit.referrer);
  return seen.has(page) ? null : page;
}

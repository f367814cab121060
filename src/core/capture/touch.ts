import {
  cut,
  decodeEscapes,
  isPlaceholder,
  isUnder,
  queryPair,
  splitAddress,
  splitReferrer,
  tagValue,
  type SplitAddress,
} from './address';
import type { CaptureRules, ClickIdRule, KeptClick, Touch, TouchWhy } from './schema';

/** One arrival on a page: its full address, the referrer as the browser gives it, and how the browser came there. */
export interface Arrival {
  at: number;
  address: string;
  referrer: string;
  /** `prerender`: prepared in the background and told when it was shown; it arrives as by `navigate`. */
  navigation: 'navigate' | 'reload' | 'back_forward' | 'prerender';
}

export interface TouchDecision {
  because: TouchWhy;
  /** The touch that starts, whole; null when none does. */
  touch: Touch | null;
  /** The touch as each click ID that is new makes it, the first of them first: each is kept, the first starts it. */
  clicks: Touch[];
}

/**
 * The tags of a link by their part of a touch, with the longest of each: in characters, and in bytes as it stands in a
 * cookie (touch rule 2). Source, medium, campaign and its ID of two touches with one click ID always fit into what a
 * browser holds.
 */
const utmTags = {
  source: ['utm_source', 240],
  medium: ['utm_medium', 140],
  campaign: ['utm_campaign', 900],
  content: ['utm_content', 900],
  term: ['utm_term', 900],
  utmId: ['utm_id', 150],
} as const;
const longest = 200;
/** A click ID beyond these is kept as far as it fits, and reported (touch rule 6). */
export const longestClickId = 300;
const clickIdBytes = 900;

/**
 * Decides whether an arrival starts a touch (docs/touches.md, rules 1 to 6; its table of worked examples is run against
 * this function). A click ID that is new for this browser does, however it came. Where the page was not told again, so
 * do campaign values that come from no own page, and a referrer outside. A known click ID starts none, whatever tags
 * stand beside it.
 *
 * @param known click IDs this browser keeps, and whatever else is known of it
 */
export function decideTouch(
  arrival: Arrival,
  known: Pick<KeptClick, 'platform' | 'clickId'>[],
  rules: CaptureRules,
): TouchDecision {
  const address = splitAddress(arrival.address);
  const from = splitReferrer(arrival.referrer);
  const found = address ? findClickIds(address, rules) : [];
  const values = address ? campaignValues(address, rules.keep.utmLowerCase, rules.tagCarry) : emptyValues();
  const [fromOwn, fromNoSource] = [isOwnPage(from, rules), from !== null && isNoSource(from, rules)];

  const none = (because: TouchWhy): TouchDecision => ({ because, touch: null, clicks: [] });
  const starts = (because: TouchWhy, clicks: FoundClick[] = []): TouchDecision => {
    const make = (click?: FoundClick) =>
      makeTouch(arrival.at, address, fromOwn || fromNoSource ? null : from, values, click);
    return { because, touch: make(clicks[0]), clicks: clicks.map(make) };
  };

  const isKnown = ({ rule, value }: FoundClick) =>
    known.some(({ platform, clickId }) => platform === rule.platform && clickId === value);
  const fresh = found.filter((click) => !isKnown(click));
  if (fresh.length > 0) return starts('click_id_new', fresh);
  if (arrival.navigation === 'reload') return none('reloaded');
  if (arrival.navigation === 'back_forward') return none('history_step');
  if (found.length > 0) return none('click_id_known');
  if (isTagged(values)) return fromOwn ? none('own_link_tagged') : starts('campaign_values');
  if (!from) return none('no_referrer');
  if (fromOwn) return none('own_page');
  return fromNoSource ? none('no_source_host') : starts('outside_referrer');
}

/** True for a page of one of the business's own websites; an application is none. */
const isOwnPage = (from: SplitAddress | null, { touch }: CaptureRules): boolean =>
  from !== null && /^https?$/.test(from.scheme) && touch.ownHosts.some((own) => isUnder(from.host, own));

const isNoSource = ({ host }: SplitAddress, { touch }: CaptureRules): boolean =>
  touch.passThroughHosts.some((one) => isUnder(host, one));

const isTagged = (values: Values): boolean => Object.values(values).some((value) => value !== '');

/**
 * What is wrong with a link between own pages that was followed (touch rules 1 and 3): it brought a click ID that is new
 * here, or campaign values. Null where nothing is, or no such link was.
 */
export function ownLinkFault(
  { address, referrer, navigation }: Arrival,
  { because }: Pick<TouchDecision, 'because'>,
  rules: CaptureRules,
): 'own_link_click_id' | 'own_link_tagged' | null {
  const here = splitAddress(address);
  if (!here || isToldAgain(navigation) || !isOwnPage(splitAddress(referrer), rules)) return null;
  if (because === 'click_id_new') return 'own_link_click_id';
  return isTagged(campaignValues(here, false, rules.tagCarry)) ? 'own_link_tagged' : null;
}

/** True where a page that was open before is told again: by a reload or a step through the history. */
export const isToldAgain = (navigation: Arrival['navigation']): boolean =>
  navigation === 'reload' || navigation === 'back_forward';

type Values = Pick<Touch, keyof typeof utmTags>;

const emptyValues = (): Values => ({ source: '', medium: '', campaign: '', content: '', term: '', utmId: '' });

/** The UTM values of an address, under their own or their carry names: trimmed, without control characters, cut to what is kept of each, lower case if wanted. */
export function campaignValues(
  address: SplitAddress,
  lowerCase: boolean,
  tagCarry: CaptureRules['tagCarry'] = [],
): Values {
  const values = emptyValues();
  for (const [part, [tag, bytes]] of Object.entries(utmTags) as [keyof Values, [string, number]][]) {
    const value = tagValue(address, tag, tagCarry);
    values[part] = clean(lowerCase ? value.toLowerCase() : value, longest, bytes);
  }
  return values;
}

/** A click ID in an address: whose it is, and the carry name that brought it, '' where its own did. */
export interface FoundClick {
  rule: ClickIdRule;
  value: string;
  carriedAs: string;
  /** True where it was longer than what is kept of it. */
  isCut: boolean;
}

/**
 * The click IDs in an address by the rules, one of each platform, in the order of the address; never altered (touch
 * rule 6): a + stays, and what no platform filled in is none. Where its own name is gone, as some browsers take it out,
 * the carry name that was put into the link restores it; the real name wins.
 */
export function findClickIds(
  address: SplitAddress,
  { keep, carry }: Pick<CaptureRules, 'keep' | 'carry'>,
): FoundClick[] {
  const found = keep.clickIds.flatMap((rule) => {
    const carried = carry.filter(({ platform }) => platform === rule.platform).map(({ name }) => name);
    for (const name of [rule.parameter, ...rule.alsoAs, ...carried]) {
      const pair = queryPair(address, name);
      const whole = pair ? decodeEscapes(pair[2]) : '';
      const value = cutBytes(cut(whole, longestClickId), clickIdBytes);
      if (pair && !isPlaceholder(whole))
        return [{ pair, rule, value, carriedAs: carried.includes(name) ? name : '', isCut: value !== whole }];
    }
    return [];
  });
  return found.sort((a, b) => address.query.indexOf(a.pair) - address.query.indexOf(b.pair));
}

/** A text cut to a number of bytes as it stands in a cookie, never in the middle of a character. */
function cutBytes(text: string, most: number): string {
  if (encodeURIComponent(text).length <= most) return text;
  let left = most;
  let end = 0;
  for (const character of text) {
    left -= encodeURIComponent(character).length;
    if (left < 0) break;
    end += character.length;
  }
  return text.slice(0, end);
}

const clean = (value: string, most: number, bytes: number): string =>
  cutBytes(cut(value.replace(/[\u0000-\u001f\u007f]/g, '').trim(), most), bytes);

const hostAndPath = (address: SplitAddress | null): string =>
  address ? clean(address.host + address.path, 300, 900) : '';

/**
 * Builds the touch whole: nothing is inherited from an older one (rule 2). A click ID fills what the arrival lacks: its
 * platform's source, and where no other source is named its medium too (rule 5).
 */
function makeTouch(
  at: number,
  address: SplitAddress | null,
  from: SplitAddress | null,
  values: Values,
  click?: FoundClick,
): Touch {
  const { source = '', medium = '', platform = '' } = click?.rule ?? {};
  const fills = values.source === '' || values.source.toLowerCase() === source.toLowerCase();
  return {
    at,
    ...values,
    source: values.source || source,
    medium: values.medium || (fills ? medium : ''),
    referrer: hostAndPath(from),
    landing: hostAndPath(address),
    platform,
    clickId: click?.value ?? '',
  };
}

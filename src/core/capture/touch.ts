import { isUnder, queryValue, splitAddress, type SplitAddress } from './address';
import type { CaptureRules, ClickIdRule, KeptClick, Touch, TouchWhy } from './schema';

/** One arrival on a page: its full address, the referrer as the browser gives it, and how the browser came there. */
export interface Arrival {
  at: number;
  address: string;
  referrer: string;
  navigation: 'navigate' | 'reload' | 'back_forward' | 'prerender';
}

export interface TouchDecision {
  because: TouchWhy;
  /** The touch that starts, whole; null when none does. */
  touch: Touch | null;
}

const longest = 200;
const utmNames = {
  source: 'utm_source',
  medium: 'utm_medium',
  campaign: 'utm_campaign',
  content: 'utm_content',
  term: 'utm_term',
  utmId: 'utm_id',
} as const;

/**
 * Decides whether an arrival starts a touch (docs/touches.md, rules 1 to 5; its table of worked examples is run
 * against this function). A reload or a step through the history starts none. A click ID that is new for this browser
 * does; so do campaign values that come from no own page, and a referrer outside. A known click ID starts none,
 * whatever tags stand beside it.
 *
 * @param known click IDs this browser already keeps
 */
export function decideTouch(arrival: Arrival, known: KeptClick[], rules: CaptureRules): TouchDecision {
  const address = splitAddress(arrival.address);
  const from = splitAddress(arrival.referrer);
  const click = address && findClickId(address, rules);
  const values = address ? campaignValues(address, rules.keep.utmLowerCase) : emptyValues();
  const tagged = isTagged(values);
  const fromOwn = from !== null && isOwnHost(from.host, rules);

  const none = (because: TouchWhy): TouchDecision => ({ because, touch: null });
  const starts = (because: TouchWhy): TouchDecision => ({
    because,
    touch: makeTouch(arrival, address, fromOwn ? null : from, values, click),
  });

  if (arrival.navigation === 'reload') return none('reloaded');
  if (arrival.navigation === 'back_forward') return none('history_step');
  if (click) {
    const seen = known.some((k) => k.platform === click.rule.platform && k.clickId === click.value);
    return seen ? none('click_id_known') : starts('click_id_new');
  }
  if (tagged) return fromOwn ? none('own_link_tagged') : starts('campaign_values');
  if (!from) return none('no_referrer');
  if (fromOwn) return none('own_page');
  if (rules.touch.passThroughHosts.some((host) => isUnder(from.host, host))) return none('no_source_host');
  return starts('outside_referrer');
}

const isOwnHost = (host: string, { touch }: CaptureRules): boolean => touch.ownHosts.some((own) => isUnder(host, own));

const isTagged = ({ source, medium, campaign }: Values): boolean => source !== '' || medium !== '' || campaign !== '';

/** Whether an arrival followed a link between own pages that carries campaign values: a fault of the website (touch rule 3). */
export function isOwnLinkTagged({ address, referrer, navigation }: Arrival, rules: CaptureRules): boolean {
  const [here, from] = [splitAddress(address), splitAddress(referrer)];
  return (
    here !== null &&
    from !== null &&
    navigation === 'navigate' &&
    isOwnHost(from.host, rules) &&
    isTagged(campaignValues(here, false))
  );
}

type Values = Pick<Touch, keyof typeof utmNames>;

function emptyValues(): Values {
  return { source: '', medium: '', campaign: '', content: '', term: '', utmId: '' };
}

/** The UTM values of an address: trimmed, without control characters, at most 200 characters, lower case if wanted. */
export function campaignValues(address: SplitAddress, lowerCase: boolean): Values {
  const values = emptyValues();
  for (const key of Object.keys(utmNames) as (keyof Values)[]) {
    const value = clean(queryValue(address, utmNames[key]), longest);
    values[key] = lowerCase ? value.toLowerCase() : value;
  }
  return values;
}

/** A click ID in an address: whose it is, and the carry name that brought it, '' where its own did. */
export interface FoundClick {
  rule: ClickIdRule;
  value: string;
  carriedAs: string;
}

/**
 * The first click ID in an address by the rules; never altered (touch rule 6). Where its own name is gone, as some
 * browsers take it out, the carry name that was put into the link restores it (need C5); the real name wins.
 */
export function findClickId(
  address: SplitAddress,
  { keep, carry }: Pick<CaptureRules, 'keep' | 'carry'>,
): FoundClick | null {
  const usable = (value: string) => value !== '' && value.length <= 300;
  for (const rule of keep.clickIds) {
    const value = queryValue(address, rule.parameter);
    if (usable(value)) return { rule, value, carriedAs: '' };
  }
  for (const { platform, name } of carry) {
    const rule = keep.clickIds.find((one) => one.platform === platform);
    const value = queryValue(address, name);
    if (rule && usable(value)) return { rule, value, carriedAs: name };
  }
  return null;
}

function clean(value: string, max: number): string {
  return value
    .replace(/[\u0000-\u001f\u007f]/g, '')
    .trim()
    .slice(0, max);
}

function hostAndPath(address: SplitAddress | null): string {
  return address ? clean(address.host + address.path, 300) : '';
}

/** Builds the touch whole: nothing is inherited from an older one (rule 2); a bare click ID brings its source (rule 5). */
function makeTouch(
  arrival: Arrival,
  address: SplitAddress | null,
  from: SplitAddress | null,
  values: Values,
  click: FoundClick | null,
): Touch {
  const untagged = Object.values(values).every((value) => value === '');
  return {
    at: arrival.at,
    ...values,
    ...(click && untagged ? { source: click.rule.source, medium: click.rule.medium } : {}),
    referrer: hostAndPath(from),
    landing: hostAndPath(address),
    platform: click?.rule.platform ?? '',
    clickId: click?.value ?? '',
  };
}

import { isUnder } from './address';
import { clickLastsUntil, touchLastsUntil, withoutOldestClick } from './lasting';
import { valueLastsUntil } from './kept-values';
import type { CaptureRules, Kept, KeptClick, KeptValue, Touch, Visitor } from './schema';

/** First-party cookies that Avrix keeps, on the registrable domain. */
export const cookieNames = {
  visitor: 'avx_visitor',
  first: 'avx_first',
  last: 'avx_last',
  clicks: 'avx_clicks',
} as const;

/** One cookie to be written: seconds to live, 0 to remove it. */
export interface CookieToWrite {
  name: string;
  value: string;
  maxAge: number;
}

/** The registrable name on which a page's cookies stand; undefined on hosts that are none of the business's. */
export const cookieDomain = (host: string, { touch }: CaptureRules): string | undefined =>
  touch.ownHosts.find((own) => isUnder(host, own));

const version = '1';
const uuid = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;
const touchParts = [
  'source',
  'medium',
  'campaign',
  'content',
  'term',
  'utmId',
  'referrer',
  'landing',
  'platform',
  'clickId',
] as const satisfies (keyof Touch)[];

/** Browsers hold at least this many bytes of cookies for a host; servers refuse requests that bring many more. */
export const mostCookieBytes = 4096;

/** Reads what a browser keeps. A cookie that was tampered with or is of another version is dropped, never thrown on. */
export function readKept(cookies: Record<string, string>, { keep }: CaptureRules): Kept {
  const clicks = readClicks(cookies[cookieNames.clicks]);
  const last = readTouch(cookies[cookieNames.last], clicks);
  return {
    visitor: readVisitor(cookies[cookieNames.visitor]),
    // Where the first has ended the next that is still kept takes its place (touch rule 7).
    first: readTouch(cookies[cookieNames.first], clicks) ?? last,
    last,
    clicks,
    values: keep.values.flatMap(({ name, cookie }) => readValue(name, cookies[cookie])),
  };
}

/** Bytes that cookies take, with their names. */
export const cookieBytes = (cookies: CookieToWrite[]): number =>
  cookies.reduce((sum, { name, value, maxAge }) => sum + (maxAge > 0 ? name.length + value.length + 3 : 0), 0);

/** What gave way for want of room: older click IDs, what stands beside the campaign of a touch, own values. */
export type GaveWay = 'clicks' | 'first' | 'last' | 'values' | 'all';

/** What of a touch gives way, in this order. */
const lesserParts = ['content', 'term', 'referrer', 'landing'] as const;

/**
 * What of a browser's values its cookies can hold, all together at most 4,096 bytes (touch rule 2). First the oldest
 * click IDs give way, of platforms that have newer ones before others; then content, term, referrer and landing page of
 * the first touch, then of the last; then the business's own values, the oldest first. Source, medium, campaign and the
 * newest click ID stay.
 */
export function fitCookies(kept: Kept, now: number, rules: CaptureRules): { kept: Kept; gaveWay: GaveWay[] } {
  const gaveWay = new Set<GaveWay>();
  let left = kept;
  while (cookieBytes(cookiesFor(left, now, rules)) > mostCookieBytes) {
    const [what, less] = nextToGiveWay(left);
    gaveWay.add(what);
    left = { ...left, ...less };
  }
  return { kept: left, gaveWay: [...gaveWay] };
}

function nextToGiveWay(kept: Kept): [GaveWay, Partial<Kept>] {
  const { clicks, values } = kept;
  if (clicks.length > 1) return ['clicks', { clicks: withoutOldestClick(clicks) }];
  for (const which of ['first', 'last'] as const) {
    const touch = kept[which];
    if (touch?.clickId && !isKeptClick(touch, clicks)) return ['clicks', { [which]: { ...touch, clickId: '' } }];
  }
  for (const which of ['first', 'last'] as const) {
    const part = lesserParts.find((one) => kept[which]?.[one]);
    if (part) return [which, { [which]: { ...kept[which], [part]: '' } }];
  }
  const oldest = values.reduce((a, b) => (b.at < a.at ? b : a), values[0]!);
  if (oldest) return ['values', { values: values.filter((value) => value !== oldest) }];
  // What arrivals make fits by now; only what somebody wrote into the cookies by hand does not.
  return ['all', { first: null, last: null, clicks: [] }];
}

/** True where a touch's click ID is the one kept of its platform and moment, and need not stand in two cookies. */
const isKeptClick = ({ at, platform, clickId }: Touch, clicks: KeptClick[]): boolean =>
  clickOf(at, platform, clicks) === clickId;

const clickOf = (at: number, platform: string, clicks: KeptClick[]): string =>
  clicks.find((click) => click.at === at && click.platform === platform)?.clickId ?? '';

/** The cookies that hold what is kept, as far as they can, at `now` (ms). Empty ones are removed by a life of 0 seconds. */
export const writeKept = (kept: Kept, now: number, rules: CaptureRules): CookieToWrite[] =>
  cookiesFor(fitCookies(kept, now, rules).kept, now, rules);

function cookiesFor(kept: Kept, now: number, rules: CaptureRules): CookieToWrite[] {
  const seenAt = kept.visitor?.seenAt ?? now;
  const left = (until: number) => Math.max(0, Math.floor((until - now) / 1000));
  const touchCookie = (name: string, touch: Touch | null): CookieToWrite => ({
    name,
    value: touch ? writeTouch(touch, kept.clicks) : '',
    maxAge: touch ? left(touchLastsUntil(touch, seenAt, rules)) : 0,
  });
  return [
    {
      name: cookieNames.visitor,
      value: kept.visitor ? writeVisitor(kept.visitor) : '',
      maxAge: kept.visitor ? 400 * 86_400 : 0,
    },
    touchCookie(cookieNames.first, kept.first),
    touchCookie(cookieNames.last, kept.last),
    {
      name: cookieNames.clicks,
      value: join(kept.clicks.flatMap((c) => [time(c.at), c.platform, c.clickId])),
      maxAge: left(Math.max(0, ...kept.clicks.map((c) => clickLastsUntil(c, rules)))),
    },
    ...rules.keep.values.map((rule): CookieToWrite => {
      const value = kept.values.find(({ name }) => name === rule.name);
      return {
        name: rule.cookie,
        value: value ? join([time(value.at), value.value]) : '',
        maxAge: value ? left(valueLastsUntil(value, seenAt, rules)) : 0,
      };
    }),
  ];
}

/** Reads a `document.cookie` or Cookie header text into names and raw values; a repeated name keeps its first. */
export function parseCookieText(text: string): Record<string, string> {
  // A page may teach every object names of its own.
  const cookies = Object.create(null) as Record<string, string>;
  for (const pair of text.split(';')) {
    const at = pair.indexOf('=');
    if (at < 0) continue;
    const name = pair.slice(0, at).trim();
    if (!(name in cookies)) cookies[name] = pair.slice(at + 1).trim();
  }
  return cookies;
}

function join(parts: string[]): string {
  return [version, ...parts.map((part) => encodeURIComponent(part).replace(/~/g, '%7E'))].join('~');
}

function split(cookie: string | undefined): string[] | null {
  if (!cookie) return null;
  const [head, ...parts] = cookie.split('~');
  if (head !== version) return null;
  try {
    return parts.map(decodeURIComponent);
  } catch {
    return null;
  }
}

function time(at: number): string {
  return at.toString(36);
}

function readTime(text: string | undefined): number | null {
  if (!text || !/^[0-9a-z]{1,10}$/.test(text)) return null;
  return parseInt(text, 36) || null;
}

function writeVisitor(visitor: Visitor): string {
  const { id, visitId, visitAt, seenAt, noCustomer } = visitor;
  return join([id, visitId, time(visitAt), time(seenAt), ...(noCustomer ? ['no customer'] : [])]);
}

function readVisitor(cookie: string | undefined): Visitor | null {
  const parts = split(cookie);
  if (parts?.length !== 4 && parts?.length !== 5) return null;
  const [id, visitId] = parts as [string, string];
  const visitAt = readTime(parts[2]);
  const seenAt = readTime(parts[3]);
  if (!uuid.test(id) || !uuid.test(visitId) || !visitAt || !seenAt) return null;
  return { id, visitId, visitAt, seenAt, noCustomer: parts.length === 5 };
}

/** Stands in place of a click ID that the cookie of click IDs holds; nothing that is encoded reads so. */
const inClicks = '~+';

function writeTouch(touch: Touch, clicks: KeptClick[]): string {
  const parts = [time(touch.at), ...touchParts.map((part) => touch[part])];
  return touch.clickId && isKeptClick(touch, clicks) ? join(parts.slice(0, -1)) + inClicks : join(parts);
}

function readTouch(cookie: string | undefined, clicks: KeptClick[]): Touch | null {
  const parts = split(cookie);
  const at = readTime(parts?.[0]);
  if (!parts || !at || parts.length !== touchParts.length + 1) return null;
  if (parts.some((part) => part.length > 300)) return null;
  const touch = { at } as Touch;
  touchParts.forEach((name, i) => (touch[name] = parts[i + 1]!));
  if (cookie!.endsWith(inClicks)) touch.clickId = clickOf(at, touch.platform, clicks);
  return touch;
}

function readValue(name: string, cookie: string | undefined): KeptValue[] {
  const parts = split(cookie);
  const at = readTime(parts?.[0]);
  return at && parts?.length === 2 && parts[1]!.length <= 300 ? [{ name, value: parts[1]!, at }] : [];
}

function readClicks(cookie: string | undefined): KeptClick[] {
  const parts = split(cookie);
  if (!parts || parts.length % 3 !== 0) return [];
  const clicks: KeptClick[] = [];
  for (let i = 0; i < parts.length; i += 3) {
    const at = readTime(parts[i]);
    const platform = parts[i + 1]!;
    const clickId = parts[i + 2]!;
    if (at && platform && clickId && clickId.length <= 300) clicks.push({ at, platform, clickId });
  }
  return clicks.slice(-20);
}

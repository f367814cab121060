import { isUnder } from './address';
import { clickLastsUntil, nothingKept, touchLastsUntil } from './keep';
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
  const kept = nothingKept();
  kept.visitor = readVisitor(cookies[cookieNames.visitor]);
  kept.first = readTouch(cookies[cookieNames.first]);
  kept.last = readTouch(cookies[cookieNames.last]);
  kept.clicks = readClicks(cookies[cookieNames.clicks]);
  kept.values = keep.values.flatMap(({ name, cookie }) => readValue(name, cookies[cookie]));
  return kept;
}

/** Bytes that cookies take, with their names. */
export const cookieBytes = (cookies: CookieToWrite[]): number =>
  cookies.reduce((sum, { name, value, maxAge }) => sum + (maxAge > 0 ? name.length + value.length + 3 : 0), 0);

/**
 * The cookies that hold what is kept, at `now` (ms). Empty ones are removed by a life of 0 seconds. Where all of them
 * would take more than a browser is sure to hold, the oldest click IDs go.
 */
export function writeKept(kept: Kept, now: number, rules: CaptureRules): CookieToWrite[] {
  const cookies = cookiesFor(kept, now, rules);
  return cookieBytes(cookies) > mostCookieBytes && kept.clicks.length > 1
    ? writeKept({ ...kept, clicks: kept.clicks.slice(1) }, now, rules)
    : cookies;
}

function cookiesFor(kept: Kept, now: number, rules: CaptureRules): CookieToWrite[] {
  const seenAt = kept.visitor?.seenAt ?? now;
  const left = (until: number) => Math.max(0, Math.floor((until - now) / 1000));
  const touchCookie = (name: string, touch: Touch | null): CookieToWrite => ({
    name,
    value: touch ? writeTouch(touch) : '',
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
  const cookies: Record<string, string> = {};
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

function writeTouch(touch: Touch): string {
  return join([time(touch.at), ...touchParts.map((part) => touch[part])]);
}

function readTouch(cookie: string | undefined): Touch | null {
  const parts = split(cookie);
  const at = readTime(parts?.[0]);
  if (!parts || !at || parts.length !== touchParts.length + 1) return null;
  if (parts.some((part) => part.length > 300)) return null;
  const touch = { at } as Touch;
  touchParts.forEach((name, i) => (touch[name] = parts[i + 1]!));
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

import { hostOf, isUnder } from './address';
import type { CaptureRules, Elsewhere, Kept, Reading } from './schema';

/** The query name under which signed values travel to places outside and come back. */
export const carriedParameter = 'avx_to';

/** The place outside that an address leads to, the one with the longest host where one lies under another; or null. */
export function elsewhereOf(address: string, { elsewhere }: Pick<CaptureRules, 'elsewhere'>): Elsewhere | null {
  const host = hostOf(address);
  const under = elsewhere.filter((place) => host !== '' && isUnder(host, place.host));
  return under.sort((a, b) => b.host.length - a.host.length)[0] ?? null;
}

/** What stands under the parameter in an address, as it stands there; '' where nothing does. */
export const carriedIn = (address: string): string => /[?&]avx_to=([\w.~-]+)/.exec(address)?.[1] ?? '';

/** An address without the parameter. */
export const withoutCarried = (address: string): string =>
  address.replace(/([?&])avx_to=[^&#]*(&?)/, (_, before: string, after: string) => (after ? before : ''));

/** An address that carries signed values; its own query and fragment stay. */
export function withCarried(address: string, signed: string): string {
  const [, head, fragment] = /^([^#]*)(.*)$/s.exec(withoutCarried(address))!;
  return `${head}${head!.includes('?') ? '&' : '?'}${carriedParameter}=${signed}${fragment}`;
}

/** The longest plain value (characters) that a place is given. */
const longestPlain = 100;

/**
 * An address with the place's plain values that are kept; what stands in its query already stays as it is.
 * @param read what is kept of a reading; '' where nothing is
 */
export function withPlain(
  address: string,
  { plain }: Pick<Elsewhere, 'plain'>,
  read: (reading: Reading, of: string) => string,
): string {
  return plain.reduce((before, { name, reading, platform }) => {
    const value = read(reading, platform).slice(0, longestPlain).toWellFormed();
    const [head = '', fragment] = before.split(/(?=#)(.*)/s);
    if (!value || `&${head.split('?')[1] ?? ''}`.includes(`&${name}=`)) return before;
    return `${head}${head.includes('?') ? '&' : '?'}${name}=${encodeURIComponent(value)}${fragment ?? ''}`;
  }, address);
}

/**
 * What a browser keeps once values came back to it from another of the business's websites: the visitor who left, the
 * older first touch, the newer last one, and every click ID and value, each with its earliest time.
 */
export function mergeKept(here: Kept, came: Kept): Kept {
  const ordered = (a: Kept['first'], b: Kept['first']) =>
    a && b ? (a.at <= b.at ? [a, b] : [b, a]) : [a ?? b, a ?? b];
  const once = <One extends { at: number }>(all: One[], key: (one: One) => string): One[] => {
    const earliest = new Map<string, One>();
    for (const one of [...all].sort((a, b) => a.at - b.at)) if (!earliest.has(key(one))) earliest.set(key(one), one);
    return [...earliest.values()];
  };
  return {
    visitor: came.visitor ?? here.visitor,
    first: ordered(here.first, came.first)[0]!,
    last: ordered(here.last, came.last)[1]!,
    clicks: once([...here.clicks, ...came.clicks], ({ platform, clickId }) => `${platform} ${clickId}`).slice(-20),
    values: once([...came.values, ...here.values], ({ name }) => name),
  };
}

/**
 * Splits addresses by plain string rules, the same in every browser and on the server (Node's and Chromium's URL
 * parsers disagree on some inputs). It reads; it never rewrites: what it returns are the characters that stood there.
 */

export interface SplitAddress {
  scheme: string;
  /** Lower case, without the port. */
  host: string;
  port: string;
  path: string;
  /** Decoded name and value pairs in the order of the address; repeated names stay repeated. */
  query: [name: string, value: string][];
  fragment: string;
}

const shape =
  /^([a-z][a-z0-9+.-]*):\/\/(?:[^/?#@]*@)?(\[[^\]]*\]|[^/?#:]*)(?::(\d*))?([^?#]*)(?:\?([^#]*))?(?:#(.*))?$/is;

/** Decodes one part of a query: `+` is a space; escapes that are no UTF-8 stay as they stand (WHATWG URL, 5.1). */
export function decodePart(text: string): string {
  const spaced = text.replace(/\+/g, ' ');
  try {
    return decodeURIComponent(spaced);
  } catch {
    return spaced;
  }
}

/** The parts of an absolute http(s) address, or null when it is none. */
export function splitAddress(address: string): SplitAddress | null {
  const parts = shape.exec(address.trim());
  if (!parts || !/^https?$/i.test(parts[1]!) || !parts[2]) return null;
  return {
    scheme: parts[1]!.toLowerCase(),
    host: parts[2].toLowerCase(),
    port: parts[3] ?? '',
    path: parts[4] || '/',
    query: (parts[5] ?? '')
      .split('&')
      .filter((pair) => pair !== '')
      .map((pair) => {
        const at = pair.indexOf('=');
        return at < 0 ? [decodePart(pair), ''] : [decodePart(pair.slice(0, at)), decodePart(pair.slice(at + 1))];
      }),
    fragment: parts[6] ?? '',
  };
}

/** The host of an absolute http(s) address in lower case, without its port; '' when it is none. */
export function hostOf(address: string): string {
  const parts = shape.exec(address.trim());
  return parts && /^https?$/i.test(parts[1]!) ? parts[2]!.toLowerCase() : '';
}

/** Host and path of an absolute http(s) address, at most 200 characters of it; '' when it is none. */
export function pageOf(text: string): string {
  const address = splitAddress(text);
  return address ? (address.host + address.path).slice(0, 200) : '';
}

/** The first value that stands under a query name, or '' where there is none. */
export function queryValue(address: SplitAddress, name: string): string {
  return address.query.find(([key]) => key === name)?.[1] ?? '';
}

/** True when `host` is `own` or lies under it. */
export function isUnder(host: string, own: string): boolean {
  return host === own || host.endsWith('.' + own);
}

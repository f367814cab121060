/**
 * Splits addresses by plain string rules, the same in every browser and on the server (Node's and Chromium's URL
 * parsers disagree on some inputs). It reads; it never rewrites: what it returns are the characters that stood there.
 */

/** One pair of a query, decoded, and its value as it stood there. */
export type QueryPair = [name: string, value: string, raw: string];

export interface SplitAddress {
  scheme: string;
  /** Lower case, without the port. */
  host: string;
  port: string;
  path: string;
  /** In the order of the address; repeated names stay repeated. */
  query: QueryPair[];
  fragment: string;
}

const shape =
  /^([a-z][a-z0-9+.-]*):\/\/(?:[^/?#@]*@)?(\[[^\]]*\]|[^/?#:]*)(?::(\d*))?([^?#]*)(?:\?([^#]*))?(?:#(.*))?$/is;
/** Escapes that say characters in UTF-8 and nothing else (RFC 3629, 4), as many as stand in a row. */
const escapes =
  /(?:%(?:[0-7][\da-f]|(?:c[2-9a-f]|d[\da-f]|(?:e0%[ab]|ed%[89]|e[1-9a-cef]%[89ab]|(?:f0%[9ab]|f[1-3]%[89ab]|f4%8)[\da-f]%[89ab])[\da-f])%[89ab][\da-f]))+/gi;
/** Halves of a character that stand alone: no text, and no cookie, can hold them. */
const halves = /[\ud800-\udfff]/gu;

/** Decodes escapes; those that say no character in UTF-8 stay as they stand, and so does `+`. */
export const decodeEscapes = (text: string): string => text.replace(escapes, (row) => decodeURIComponent(row));

/** Decodes one part of a query as forms write it: `+` is a space (WHATWG URL, 5.1). */
export const decodePart = (text: string): string =>
  /[%+]/.test(text) ? decodeEscapes(text.replace(/\+/g, ' ')) : text;

/** What is cut off at a number of UTF-16 units, never in the middle of a character. */
export function cut(text: string, most: number): string {
  return text.length <= most ? text : text.slice(0, most).replace(halves, '');
}

/** The parts of an absolute address of any scheme, such as the referrer that an application gives; null when it is none. */
export function splitReferrer(address: string): SplitAddress | null {
  const parts = shape.exec(address.trim().replace(halves, '\ufffd'));
  if (!parts?.[2]) return null;
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
        const raw = at < 0 ? '' : pair.slice(at + 1);
        return [decodePart(at < 0 ? pair : pair.slice(0, at)), decodePart(raw), raw];
      }),
    fragment: parts[6] ?? '',
  };
}

const isWeb = ({ scheme }: SplitAddress): boolean => scheme === 'http' || scheme === 'https';

/** The parts of an absolute http(s) address, or null when it is none. */
export function splitAddress(address: string): SplitAddress | null {
  const parts = splitReferrer(address);
  return parts && isWeb(parts) ? parts : null;
}

/** The host of an absolute http(s) address in lower case, without its port; '' when it is none. */
export function hostOf(address: string): string {
  const parts = shape.exec(address.trim());
  return parts && /^https?$/i.test(parts[1]!) ? parts[2]!.toLowerCase() : '';
}

/** Host and path of an absolute http(s) address, at most 200 characters of it; '' when it is none. */
export function pageOf(text: string): string {
  const address = splitAddress(text);
  return address ? cut(address.host + address.path, 200) : '';
}

/** What a platform writes into links and should have replaced at the click, by its shape: `{…} [ ] ( ) < > ~…~ %…%`. */
export const isPlaceholder = (value: string): boolean =>
  /^(?:\$?\{.*\}|\[.*\]|\(.*\)|<.*>|~.+~|%.+%)$/s.test(value.trim());

/** The pair of a query name that counts: of a repeated one the first that is neither empty nor an unfilled placeholder. */
export function queryPair({ query }: SplitAddress, name: string): QueryPair | undefined {
  const filled = query.filter(([key, value]) => key === name && value !== '');
  return filled.find(([, value]) => !isPlaceholder(value)) ?? filled[0];
}

/** The value under a query name, by the rule of `queryPair`; '' where there is none. */
export const queryValue = (address: SplitAddress, name: string): string => queryPair(address, name)?.[1] ?? '';

/** The value of a tag under its own name, else under the first of its carry names that has one; '' where none has. */
export const tagValue = (
  address: SplitAddress,
  tag: string,
  carried: readonly { tag: string; name: string }[],
): string =>
  carried.reduce(
    (value, rule) => value || (rule.tag === tag ? queryValue(address, rule.name) : ''),
    queryValue(address, tag),
  );

/** True when `host` is `own` or lies under it. */
export function isUnder(host: string, own: string): boolean {
  return host === own || host.endsWith('.' + own);
}

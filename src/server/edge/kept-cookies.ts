import { cookieDomain, cookieNames, parseCookieText, readKept, writeKept, type CaptureRules } from '../../core/capture';

/**
 * The Set-Cookie headers that set what a browser keeps again, with the same contents and the same ends, for the whole
 * website. None where the request did not come to a subdomain of it, or the browser keeps nothing.
 *
 * @param header the request's Cookie header
 * @param host the host that the request came to
 * @param now ms
 */
export function keptCookies(header: string, host: string, rules: CaptureRules, now: number, secure: boolean): string[] {
  const domain = cookieDomain(host.replace(/:\d+$/, ''), rules);
  if (!domain) return [];
  const cookies = parseCookieText(header);
  if (!cookies[cookieNames.visitor]) return [];
  return writeKept(readKept(cookies, rules), now, rules)
    .filter(({ maxAge }) => maxAge > 0)
    .map(
      ({ name, value, maxAge }) =>
        `${name}=${value}; Max-Age=${maxAge}; Path=/; SameSite=Lax; Domain=${domain}${secure ? '; Secure' : ''}`,
    );
}

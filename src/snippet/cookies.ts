import { cookieDomain, parseCookieText, readKept, writeKept, type Kept } from '../core/capture';
import type { SnippetSetup } from './tools';

/** What this browser keeps now. */
export const keptNow = ({ rules }: SnippetSetup): Kept => readKept(parseCookieText(document.cookie), rules);

/** Writes what is kept, on the registrable domain. @returns what the browser really keeps then */
export function keep(kept: Kept, at: number, setup: SnippetSetup): Kept {
  const { rules } = setup;
  const domain = cookieDomain(location.hostname, rules);
  const scope =
    '; Path=/; SameSite=Lax' +
    (domain ? `; Domain=${domain}` : '') +
    (location.protocol === 'https:' ? '; Secure' : '');
  for (const { name, value, maxAge } of writeKept(kept, at, rules))
    document.cookie = `${name}=${value}; Max-Age=${maxAge}${scope}`;
  return keptNow(setup);
}

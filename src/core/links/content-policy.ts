import type { StoppedBy } from '../capture/stopped';

/** What can be told from a policy alone: whether it stops the snippet's script, or what that sends. */
type Told = Exclude<StoppedBy, 'trusted-types'>;

/** What stands in place of a directive that a policy does not name (CSP 3, 6.8.3). */
const fallbacks: Record<Told, string[]> = {
  'script-src': ['script-src-elem', 'script-src', 'default-src'],
  'connect-src': ['connect-src', 'default-src'],
};

/** Whether a source of a policy lets an address in, whose page is at `page` (CSP 3, 6.7.2.8). */
function letsIn(source: string, address: URL, page: URL): boolean {
  if (source === '*') return /^(https?|wss?):$/.test(address.protocol);
  if (source === "'self'") return address.origin === page.origin;
  const scheme = /^([a-z][a-z0-9+.-]*:)$/i.exec(source)?.[1]?.toLowerCase();
  if (scheme) return scheme === address.protocol || (scheme === 'http:' && address.protocol === 'https:');
  const parts = /^(?:([a-z][a-z0-9+.-]*):\/\/)?(\*|(?:\*\.)?[^/:*]+)(?::(\d+|\*))?(\/.*)?$/i.exec(source);
  if (!parts) return false;
  const [, wanted = page.protocol.slice(0, -1), host = '', port = '', path = ''] = parts;
  const protocol = address.protocol.slice(0, -1);
  if (wanted.toLowerCase() !== protocol && !(wanted.toLowerCase() === 'http' && protocol === 'https')) return false;
  const name = host.toLowerCase();
  const isHost =
    name === '*' || (name.startsWith('*.') ? address.hostname.endsWith(name.slice(1)) : name === address.hostname);
  const usual = address.protocol === 'https:' ? '443' : '80';
  const isPort = port === '*' || (port || usual) === (address.port || usual);
  const isPath = path === '' || (path.endsWith('/') ? address.pathname.startsWith(path) : path === address.pathname);
  return isHost && isPort && isPath;
}

/**
 * What keeps the snippet from working on a page, by the page's content policies alone; the first directive that surely
 * does. Where a script may be let in by a nonce, a hash or `strict-dynamic`, nothing is said.
 *
 * @param policies as the page's header and meta elements give them
 */
export function stoppedBy(policies: string[], script: URL, page: URL): Told | null {
  const collector = new URL('/take/', script);
  for (const policy of policies) {
    const directives = new Map(
      policy
        .split(';')
        .map((directive) => directive.trim().split(/\s+/))
        .map(([name = '', ...sources]) => [name.toLowerCase(), sources]),
    );
    for (const [what, address] of [
      ['script-src', script],
      ['connect-src', collector],
    ] as const) {
      const name = fallbacks[what].find((one) => directives.has(one));
      const sources = name ? directives.get(name)! : null;
      if (!sources || sources.some((source) => letsIn(source, address, page))) continue;
      const isOpen =
        what === 'script-src' && sources.some((source) => /^'(nonce-|sha\d+-|strict-dynamic')/.test(source));
      if (!isOpen) return what;
    }
  }
  return null;
}

/** The policies of a page: of its header, where commas part them, and of its meta elements. */
export function policiesOf(header: string, html: string): string[] {
  const metas = [...html.matchAll(/<meta\b[^>]*http-equiv\s*=\s*["']?content-security-policy["']?[^>]*>/gi)].map(
    ([meta]) => /\bcontent\s*=\s*(?:"([^"]*)"|'([^']*)')/i.exec(meta)?.slice(1).find(Boolean) ?? '',
  );
  return [...header.split(','), ...metas].map((policy) => policy.trim()).filter((policy) => policy !== '');
}

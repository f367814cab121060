import { z } from 'zod';
import { cut, hostOf, pageOf } from './address';

/** What of a page's content security policy keeps the snippet from working. */
export type StoppedBy = 'script-src' | 'connect-src' | 'trusted-types';

/** A page whose policy stopped the snippet in somebody's browser. */
export interface Stopped {
  /** Host and path. */
  page: string;
  directive: StoppedBy;
  /** What the directive would have to name: the snippet's host, or its policy of trusted types. */
  wanted: string;
}

const text = z.string().max(4000).catch('');
/** As browsers send it under `report-to` (Reporting API; CSP 3, 5.1), and as the snippet's loader does. */
const reported = z.array(
  z.object({
    body: z.object({ documentURL: text, effectiveDirective: text, blockedURL: text, disposition: text }),
  }),
);
/** As browsers send it under `report-uri` (CSP 3, 5.2). */
const reportedBefore = z.object({
  'csp-report': z.object({
    'document-uri': text,
    'effective-directive': text.optional(),
    'violated-directive': text.optional(),
    'blocked-uri': text,
    disposition: text.optional(),
  }),
});

/** The policy of trusted types that the snippet makes for itself. */
export const trustedPolicy = 'avrix';

function stoppedBy(directive: string): StoppedBy | null {
  const name = directive.trim().split(/[\s]/)[0]!.toLowerCase();
  if (name.startsWith('script-src')) return 'script-src';
  if (name === 'connect-src') return 'connect-src';
  return /^(require-)?trusted-types/.test(name) ? 'trusted-types' : null;
}

/**
 * What a browser's report of a content security policy says of pages that stop the snippet; what it says of anything
 * else, or of a policy that only watches, is left out.
 *
 * @param snippetHosts hosts that the snippet is loaded from and sends to
 * @param clean an address without personal data
 */
export function stoppedPages(report: unknown, snippetHosts: string[], clean: (address: string) => string): Stopped[] {
  const many = reported.safeParse(report).data?.map(({ body }) => body);
  const one = reportedBefore.safeParse(report).data?.['csp-report'];
  const all = many ?? [];
  if (one)
    all.push({
      documentURL: one['document-uri'],
      effectiveDirective: one['effective-directive'] ?? one['violated-directive'] ?? '',
      blockedURL: one['blocked-uri'],
      disposition: one.disposition ?? 'enforce',
    });
  return all.slice(0, 20).flatMap(({ documentURL, effectiveDirective, blockedURL, disposition }): Stopped[] => {
    const directive = stoppedBy(effectiveDirective);
    const page = pageOf(clean(documentURL));
    if (!directive || !page || disposition === 'report') return [];
    if (directive === 'trusted-types') return [{ page, directive, wanted: trustedPolicy }];
    if (!snippetHosts.includes(hostOf(blockedURL))) return [];
    return [{ page, directive, wanted: cut(/^[^/]+\/\/[^/?#]*/.exec(blockedURL)![0], 200) }];
  });
}

import type { StoppedBy } from '../capture/stopped';
import { pairsOf } from './link';
import type { OnPage } from './on-page';
import { quoteValue } from '../quote-value';

/** One answer on the way to the page. */
export interface PageStep {
  url: string;
  status: number;
  /** Where it sends on; '' where it answers itself. */
  to: string;
}

export type PageFault =
  | { code: 'no_answer'; why: string }
  | { code: 'dead'; status: number }
  | { code: 'too_many_steps'; steps: number }
  | { code: 'query_lost'; names: string[]; at: string }
  | { code: 'query_changed'; names: string[]; at: string }
  | { code: 'no_snippet' }
  | { code: 'snippet_twice'; times: number }
  | { code: 'snippet_silent'; why: string }
  | { code: 'other_business'; business: string }
  | { code: 'policy_stops'; directive: StoppedBy; /** What the directive would have to name. */ origin: string };

export interface PageCheckResult {
  steps: PageStep[];
  faults: PageFault[];
  /** How often the line of the snippet stands on the page. */
  snippets: number;
  /** The release that the page's snippet works by, or null where it has none. */
  release: number | null;
  /** What the page does already; checks of before have none. */
  found?: OnPage;
}

/** The snippet's lines on a page: the script of the own one, how often it stands there, and other businesses' keys. */
export function snippetsOn(html: string, business: string): { own: number; src: string; others: string[] } {
  const withoutComments = html.replace(/<!--[\s\S]*?-->/g, '');
  const lines = /<script\b[^>]*\bsrc\s*=\s*["']?([^"'\s>]*\/b\/([a-z0-9-]+)\.js)\b/gi;
  const named = [...withoutComments.matchAll(lines)].map(([, src, key]) => ({ src: src!, key: key!.toLowerCase() }));
  const own = named.filter(({ key }) => key === business);
  const others = named.filter(({ key }) => key !== business).map(({ key }) => key);
  return { own: own.length, src: own[0]?.src ?? '', others };
}

/** The release that the snippet's first script leads to; null where it names none. */
export const releaseNamed = (script: string): number | null =>
  Number(/\/r\/[a-z0-9-]+\/(\d+)(?:-\w+)?\.js/.exec(script)?.[1]) || null;

/** What of a link's query does not stand in an address it was sent on to: the names that are gone, and those changed. */
export function compareQuery(link: string, reached: string): { lost: string[]; changed: string[] } {
  const read = (address: string) => pairsOf(new URL(address).search.slice(1));
  const arrived = new Map(read(reached).map(({ name, value }) => [name, value]));
  const lost: string[] = [];
  const changed: string[] = [];
  for (const { name, value } of read(link))
    if (!arrived.has(name)) lost.push(name);
    else if (arrived.get(name) !== value) changed.push(name);
  return { lost, changed };
}

/**
 * What is wrong with a link by the answers on its way.
 *
 * @param html the last answer's body
 * @param why why the last step was not answered; '' where it was
 */
export function judgePage(
  steps: PageStep[],
  html: string,
  business: string,
  { why = '', mostSteps = 10 }: { why?: string; mostSteps?: number } = {},
): Omit<PageCheckResult, 'release'> {
  const faults: PageFault[] = [];
  const last = steps.at(-1);
  // A step may add values of its own, as short links do; what stood in an address must stand in the one after it.
  const moves = steps.filter(({ to }) => to !== '').map(({ url, to }) => ({ at: url, ...compareQuery(url, to) }));
  const losing = moves.find(({ lost }) => lost.length > 0);
  const changing = moves.find(({ changed }) => changed.length > 0);
  if (losing) faults.push({ code: 'query_lost', names: losing.lost, at: losing.at });
  if (changing) faults.push({ code: 'query_changed', names: changing.changed, at: changing.at });
  if (why || !last) return { steps, faults: [{ code: 'no_answer', why }, ...faults], snippets: 0 };
  if (last.to !== '') return { steps, faults: [{ code: 'too_many_steps', steps: mostSteps }, ...faults], snippets: 0 };
  if (last.status >= 400) return { steps, faults: [{ code: 'dead', status: last.status }, ...faults], snippets: 0 };
  const { own, others } = snippetsOn(html, business);
  if (own === 0) faults.push({ code: 'no_snippet' });
  if (own > 1) faults.push({ code: 'snippet_twice', times: own });
  if (others.length > 0) faults.push({ code: 'other_business', business: others[0]! });
  return { steps, faults, snippets: own };
}

/** What a page check found, in words. */
export function pageFaultWords(fault: PageFault): string {
  switch (fault.code) {
    case 'no_answer':
      return `The page did not answer: ${fault.why}.`;
    case 'dead':
      return `The page answers ${fault.status}.`;
    case 'too_many_steps':
      return `It is sent on more than ${fault.steps} times.`;
    case 'query_lost':
      return `${fault.names.map((name) => quoteValue(name)).join(', ')} lost where ${quoteValue(fault.at)} sends on.`;
    case 'query_changed':
      return `${fault.names.map((name) => quoteValue(name)).join(', ')} changed where ${quoteValue(fault.at)} sends on.`;
    case 'no_snippet':
      return 'The page has no snippet; nobody who lands there is seen.';
    case 'snippet_twice':
      return `The snippet is there ${fault.times} times; it should be there once.`;
    case 'snippet_silent':
      return `The snippet’s script does not answer: ${fault.why}.`;
    case 'policy_stops':
      return `The page’s content policy stops the snippet: its ${quoteValue(fault.directive)} does not name ${quoteValue(fault.origin)}.`;
    case 'other_business':
      return `The page carries the snippet of another business, ${quoteValue(fault.business)}.`;
  }
}

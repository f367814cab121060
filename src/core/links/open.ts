import { isUnder } from '../capture/address';
import { readLanding, type AddressProblem } from './landing';
import { pairsOf } from './link';

/** Which value holds where the short link is opened with a query of its own and both name the same. */
export const shortLinkWins = ['link', 'visitor', 'neither'] as const;
export type ShortLinkWins = (typeof shortLinkWins)[number];

/**
 * Why a short link may not lead somewhere, or null where it may: it is no address, or it is a short link itself and could lead in a circle.
 * @param shortHosts hosts whose paths under `/go/` are short links
 */
export function checkDestination(
  destination: string,
  shortHosts: string[],
): Pick<AddressProblem, 'was' | 'fix'> | null {
  const read = readLanding(destination);
  if ('problem' in read) return read.problem;
  const { host, hostname, pathname } = read.url;
  const isShort = shortHosts.some((own) => own === host || isUnder(hostname, own)) && /^\/go(\/|$)/.test(pathname);
  return isShort ? { was: 'it is a short link itself', fix: 'Lead to the page that it leads to.' } : null;
}

/**
 * Where an opened short link leads: its destination with the query it was opened with. Only the stored
 * destination decides the host, so that nobody can lead elsewhere by it.
 *
 * @param query as it stood in the opened address, without its question mark
 */
export function openShortLink(destination: string, query: string, wins: ShortLinkWins): string {
  if (query === '' || wins === 'neither') return destination;
  const [, page = '', search = '', fragment = ''] = /^([^?#]*)(?:\?([^#]*))?(#.*)?$/s.exec(destination) ?? [];
  const own = pairsOf(search);
  const given = pairsOf(query);
  const names = (pairs: { name: string }[]) => new Set(pairs.map(({ name }) => name));
  const [ownNames, givenNames] = [names(own), names(given)];
  const kept =
    wins === 'link'
      ? [...own, ...given.filter(({ name }) => !ownNames.has(name))]
      : [...own.filter(({ name }) => !givenNames.has(name)), ...given];
  return `${page}?${kept.map(({ raw }) => raw).join('&')}${fragment}`;
}

import { splitAddress } from '../capture/address';

/** The tags of a plan that stand in an address with a value, as they stand there; the first where one is repeated. */
export function arrivedTags(address: string, tags: string[]): [tag: string, value: string][] {
  const query = splitAddress(address)?.query ?? [];
  return tags.flatMap((tag): [string, string][] => {
    const value = query.find(([name]) => name === tag)?.[1] ?? '';
    return value === '' ? [] : [[tag, value.slice(0, 200)]];
  });
}

import { cut, queryValue, splitAddress } from '../capture/address';

/** The tags of a plan that stand in an address with a value, as they stand there; of a repeated one the value that counts. */
export function arrivedTags(address: string, tags: string[]): [tag: string, value: string][] {
  const split = splitAddress(address);
  return tags.flatMap((tag): [string, string][] => {
    const value = split ? queryValue(split, tag) : '';
    return value === '' ? [] : [[tag, cut(value, 200)]];
  });
}

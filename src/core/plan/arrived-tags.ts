import { cut, splitAddress, tagValue } from '../capture/address';
import type { TagCarry } from '../capture/schema';

/** The tags of a plan that stand in an address with a value, under their own or their carry names, as they stand there; of a repeated one the value that counts. */
export function arrivedTags(
  address: string,
  tags: string[],
  carried: readonly TagCarry[] = [],
): [tag: string, value: string][] {
  const split = splitAddress(address);
  return tags.flatMap((tag): [string, string][] => {
    const value = split ? tagValue(split, tag, carried) : '';
    return value === '' ? [] : [[tag, cut(value, 200)]];
  });
}

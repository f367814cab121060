import type { SwapTable } from './schema';

/**
 * What a swap table makes of a value: the row that holds it, whatever the letters' case, else what the table
 * says of all others.
 *
 * @param read gives another reading of the same visit, for rows that take one
 */
export function swapValue(
  { rows, otherwise }: SwapTable,
  value: string,
  read: (reading: Exclude<SwapTable['otherwise']['take'], '' | 'itself'>) => string,
): string {
  const { gives, take } = rows.find((row) => row.value.toLowerCase() === value.toLowerCase()) ?? otherwise;
  if (take === 'itself') return value;
  return take === '' ? gives : read(take) || gives;
}

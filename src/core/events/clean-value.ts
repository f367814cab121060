import type { Cleaning } from '../destinations/contract';

/** The value of a reading as it may stand in a name. */
export function cleanValue(value: string, { stays, lowerCase, joins, longest, otherwise }: Cleaning): string {
  const parts = (lowerCase ? value.toLowerCase() : value).match(new RegExp(`[${stays}]+`, 'g')) ?? [];
  const joined = parts.join(joins).slice(0, longest);
  return (joined.endsWith(joins) ? joined.slice(0, -joins.length) : joined) || otherwise;
}

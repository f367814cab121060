import { queryValue, type SplitAddress } from './address';
import type { CaptureRules, KeptValue, ValueRule } from './schema';

const day = 86_400_000;
const allowed = { any: /^[^\u0000-\u001f\u007f]+$/, words: /^[\p{L}\p{N} _.-]+$/u, digits: /^\d+$/ };

/** A value as a rule keeps it; '' where it has characters that the rule does not expect, or more of them. */
export function expectedValue(value: string, { lowerCase, characters, longest }: ValueRule): string {
  const read = lowerCase ? value.toLowerCase() : value;
  return read.length <= longest && allowed[characters].test(read) ? read : '';
}

/**
 * The business's own query values that are kept from now on. The same value again keeps when it came; where a
 * rule keeps the first, later ones change nothing.
 *
 * @param at ms
 */
export function keepValues(
  before: KeptValue[],
  address: SplitAddress | null,
  at: number,
  { keep }: CaptureRules,
): KeptValue[] {
  return keep.values.flatMap((rule): KeptValue[] => {
    const known = before.find(({ name }) => name === rule.name);
    const came = address ? queryValue(address, rule.name) : '';
    const value = came && expectedValue(came, rule);
    if (known && (value === '' || value === known.value || rule.which === 'first')) return [known];
    return value === '' ? [] : [{ name: rule.name, value, at }];
  });
}

/** Until when (ms) a kept value lasts; 0 for one that no rule knows any more. */
export function valueLastsUntil({ name, at }: KeptValue, seenAt: number, { keep }: CaptureRules): number {
  const rule = keep.values.find((one) => one.name === name);
  return rule ? (rule.age === 'renewed' ? Math.max(at, seenAt) : at) + rule.days * day : 0;
}

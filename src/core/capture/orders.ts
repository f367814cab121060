import { pointerName, readPointer } from './pointer';
import type { OrderRule, OrderedHit } from './schema';

/** What a page says of an order. Amounts are as they stand there, decimal numbers of major units. */
export type SaidOrder = Pick<OrderedHit, 'number' | 'currency' | 'amounts'>;

/**
 * The order that a page says, by the first rule whose number it has; null where it says none. Only texts and numbers are
 * read; what is longer than a hit can hold is left out.
 */
export function readOrder(said: unknown, rules: OrderRule[]): SaidOrder | null {
  const text = (pointer: string, longest: number): string => {
    const value = readPointer(said, pointer);
    const read = typeof value === 'string' || typeof value === 'number' ? String(value).trim() : '';
    return read.length <= longest ? read : '';
  };
  for (const rule of rules) {
    const number = text(rule.number, 60);
    if (number === '') continue;
    return {
      number,
      currency: /^[A-Z]{3}$/.test(text(rule.currency, 3)) ? text(rule.currency, 3) : '',
      amounts: rule.amounts
        .map((pointer) => ({ name: pointerName(pointer).slice(0, 60), amount: text(pointer, 30) }))
        .filter(({ amount }) => amount !== ''),
    };
  }
  return null;
}

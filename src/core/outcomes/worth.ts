import { code as iso4217 } from 'currency-codes';
import type { Money, WorthRule } from './schema';

/**
 * The worth of an outcome by its rule, from the amounts that are known of it by name.
 *
 * @returns the amount it is made of, null where it is missing or the rule needs none; and the worth, null where the amount
 *   it is made of is missing, or the rule says that there is none
 */
export function worthOf(
  amounts: Record<string, Money>,
  rule: WorthRule,
): { amount: Money | null; worth: Money | null } {
  if (rule.kind === 'none') return { amount: null, worth: null };
  if (rule.kind === 'fixed') return { amount: null, worth: rule.amount };
  const amount = amounts[rule.field] ?? null;
  if (rule.kind === 'realised') return { amount, worth: amount && lessOthers(amount, rule.less, amounts) };
  return { amount, worth: amount && expectedWorth(amount, rule.winRate) };
}

/** An amount without others of the same currency. */
const lessOthers = (amount: Money, others: string[], amounts: Record<string, Money>): Money => ({
  currency: amount.currency,
  minor: others.reduce((left, name) => {
    const other = amounts[name];
    return other?.currency === amount.currency ? left - other.minor : left;
  }, amount.minor),
});

/** The expected worth of an outcome: the amount times the win rate it rests on. */
export const expectedWorth = (amount: Money, { won, of }: { won: number; of: number }): Money =>
  partOfMoney(amount, won, of);

/**
 * `part` of `of` equal parts of an amount, rounded half up to a whole minor unit. Exact for every amount that can be
 * stored, so no product passes through a floating-point number.
 */
export function partOfMoney({ minor, currency }: Money, part: number, of: number): Money {
  const [doubled, divisor] = [2n * BigInt(minor) * BigInt(part) + BigInt(of), 2n * BigInt(of)];
  // BigInt divides towards zero; half up is towards the larger number.
  const isBelow = doubled < 0n && doubled % divisor !== 0n;
  return { minor: Number(doubled / divisor - (isBelow ? 1n : 0n)), currency };
}

/** Whether a text is written as a currency is: three capital letters. */
export const isCurrency = (text: string): boolean => /^[A-Z]{3}$/.test(text);

/** Digits after the point of a currency, by ISO 4217's own table; two where it lists none. */
export const minorDigits = (currency: string): number => iso4217(currency)?.digits ?? 2;

/**
 * Reads an amount written as a decimal number, such as "540" or "1249.50", into minor units. Null when it is none, has
 * more digits after the point than the currency, or more than can be counted exactly (2^53 minor units).
 */
export function readAmount(text: string, currency: string): Money | null {
  const digits = minorDigits(currency);
  const parts = /^(-?)(\d{1,16})(?:\.(\d+))?$/.exec(text.trim());
  if (!parts || !isCurrency(currency)) return null;
  const after = (parts[3] ?? '').replace(/0+$/, '');
  if (after.length > digits) return null;
  const minor = Number(parts[2] + after.padEnd(digits, '0'));
  if (!Number.isSafeInteger(minor)) return null;
  return { minor: parts[1] && minor > 0 ? -minor : minor, currency };
}

/** An amount as a decimal number with all the digits of its currency: "540.00". */
export function writeAmount(money: Money): string {
  const digits = minorDigits(money.currency);
  const sign = money.minor < 0 ? '-' : '';
  const text = String(Math.abs(money.minor)).padStart(digits + 1, '0');
  return digits === 0 ? sign + text : `${sign}${text.slice(0, -digits)}.${text.slice(-digits)}`;
}

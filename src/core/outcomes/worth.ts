import type { Money, OutcomeRule } from './schema';

/**
 * The expected worth of an outcome: the amount times the win rate it rests on (worth rule 16), rounded half up to a
 * whole minor unit.
 */
export function expectedWorth(amount: Money, rule: OutcomeRule['worth']): Money {
  const { won, of } = rule.winRate;
  return { minor: Math.floor((2 * amount.minor * won + of) / (2 * of)), currency: amount.currency };
}

/** Digits after the point of a currency (ISO 4217); two where it is not listed. */
export function minorDigits(currency: string): number {
  if (['JPY', 'KRW', 'ISK', 'CLP', 'VND'].includes(currency)) return 0;
  return ['BHD', 'KWD', 'OMR', 'TND', 'JOD'].includes(currency) ? 3 : 2;
}

/**
 * Reads an amount written as a decimal number, such as "540" or "1249.50", into minor units. Null when it is none or
 * has more digits after the point than the currency.
 */
export function readAmount(text: string, currency: string): Money | null {
  const digits = minorDigits(currency);
  const parts = /^(-?)(\d{1,12})(?:\.(\d+))?$/.exec(text.trim());
  if (!parts || !/^[A-Z]{3}$/.test(currency)) return null;
  const after = (parts[3] ?? '').replace(/0+$/, '');
  if (after.length > digits) return null;
  const minor = Number(parts[2] + after.padEnd(digits, '0'));
  return { minor: parts[1] ? -minor : minor, currency };
}

/** An amount as a decimal number with all the digits of its currency: "540.00". */
export function writeAmount(money: Money): string {
  const digits = minorDigits(money.currency);
  const sign = money.minor < 0 ? '-' : '';
  const text = String(Math.abs(money.minor)).padStart(digits + 1, '0');
  return digits === 0 ? sign + text : `${sign}${text.slice(0, -digits)}.${text.slice(-digits)}`;
}

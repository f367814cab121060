import { minorDigits, partOfMoney } from '../outcomes/worth';

/* Money in other currencies than the business's, by the business's own table of rates (docs/results.md). */

/** One unit of a currency is so many millionths of the business's currency, from a day on. */
export interface ExchangeRate {
  currency: string;
  day: string;
  millionths: number;
}

/** The rate that holds on a day: the newest that began by then; null where none had. */
export function rateOn(rates: readonly ExchangeRate[], currency: string, day: string): number | null {
  let found: ExchangeRate | null = null;
  for (const rate of rates)
    if (rate.currency === currency && rate.day <= day && (found === null || rate.day > found.day)) found = rate;
  return found?.millionths ?? null;
}

/** An amount at a rate, in minor units of the other currency, rounded half up. Exact for every amount that can be stored. */
export function exchanged(amount: number, from: string, to: string, millionths: number): number {
  const digits = minorDigits(to) - minorDigits(from);
  const [up, down] = [10 ** Math.max(0, digits), 10 ** Math.max(0, -digits)];
  return partOfMoney({ minor: amount, currency: to }, millionths * up, 1_000_000 * down).minor;
}

/** An amount (minor units) of a currency on a day, in minor units of the business's; null where no rate is known. */
export type Exchange = (amount: number, currency: string, day: string) => number | null;
export const exchangeBy =
  (rates: readonly ExchangeRate[], own: string): Exchange =>
  (amount, currency, day) => {
    if (currency === own) return amount;
    const rate = rateOn(rates, currency, day);
    return rate === null ? null : exchanged(amount, currency, own, rate);
  };

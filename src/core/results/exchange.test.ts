import { expect, test } from 'vitest';
import { exchangeBy, exchanged, rateOn } from './exchange';

const rates = [
  { currency: 'USD', day: '2026-01-01', millionths: 790_000 },
  { currency: 'USD', day: '2027-01-14', millionths: 800_000 },
];

test('a rate holds from its day until the next one', () => {
  expect(rateOn(rates, 'USD', '2025-12-31')).toBeNull();
  expect(rateOn(rates, 'USD', '2027-01-13')).toBe(790_000);
  expect(rateOn(rates.toReversed(), 'USD', '2027-01-14')).toBe(800_000);
  expect(rateOn(rates, 'EUR', '2027-01-14')).toBeNull();
});

test('amounts are exchanged to the minor unit, also between currencies with other digits', () => {
  expect(exchanged(1001, 'USD', 'GBP', 790_000)).toBe(791);
  expect(exchanged(1000, 'USD', 'JPY', 150_000_000)).toBe(1500);
  expect(exchanged(1500, 'JPY', 'USD', 6_667)).toBe(1000);
  expect(exchanged(-1001, 'USD', 'GBP', 790_000)).toBe(-791);
  expect(exchanged(Number.MAX_SAFE_INTEGER, 'USD', 'GBP', 1_000_000)).toBe(Number.MAX_SAFE_INTEGER);
});

test('what is in the business’s own currency needs no rate, what has none is not guessed', () => {
  const exchange = exchangeBy(rates, 'GBP');
  expect(exchange(1234, 'GBP', '2020-01-01')).toBe(1234);
  expect(exchange(1000, 'USD', '2027-02-01')).toBe(800);
  expect(exchange(1000, 'EUR', '2027-02-01')).toBeNull();
});

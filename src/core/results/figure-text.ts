import { minorDigits } from '../outcomes/worth';
import { kindOf, thousandths, type Counted } from './measures';

const formats = new Map<string, Intl.NumberFormat>();
function numberFormat(key: string, options: Intl.NumberFormatOptions): Intl.NumberFormat {
  const known = formats.get(key) ?? new Intl.NumberFormat('en-GB', options);
  formats.set(key, known);
  return known;
}
const upTo = (digits: number) => numberFormat(`up to ${digits}`, { maximumFractionDigits: digits });

/**
 * A figure as people read it: "1,204", "14.5", "£1,204", "12.4 %"; money in whole units of its currency from a hundred on.
 *
 * @param figure as `figureOf` gives it
 */
export function figureText(counted: Counted, figure: number, currency: string): string {
  const kind = kindOf(counted);
  switch (kind) {
    case 'whole':
      return upTo(0).format(figure);
    case 'shared':
      return upTo(1).format(figure / thousandths);
    case 'share':
      return `${upTo(figure < 0.1 ? 2 : 1).format(figure * 100)} %`;
    case 'money':
    case 'money each': {
      const amount = figure / 10 ** minorDigits(currency);
      const digits = Math.abs(amount) >= 100 || figure === 0 ? 0 : minorDigits(currency);
      const options = {
        style: 'currency',
        currency,
        minimumFractionDigits: digits,
        maximumFractionDigits: digits,
      } as const;
      return numberFormat(`${currency} ${digits}`, options).format(amount);
    }
  }
}

/** The same as a plain number for files: shares of counts to a thousandth, money with all its digits. */
export function figurePlain(counted: Counted, figure: number, currency: string): string {
  const kind = kindOf(counted);
  if (kind === 'shared') return String(figure / thousandths);
  if (kind === 'money') return (figure / 10 ** minorDigits(currency)).toFixed(minorDigits(currency));
  if (kind === 'money each') return (figure / 10 ** minorDigits(currency)).toFixed(4);
  return kind === 'share' ? figure.toFixed(6) : String(figure);
}

/** How much more or less than before, in per cent: "+12 %"; '' where there was nothing before. */
export function changeText(figure: number | null, before: number | null): string {
  if (figure === null || before === null || before === 0) return '';
  const change = Math.round(((figure - before) / Math.abs(before)) * 100);
  return change === 0 ? '±0 %' : `${change > 0 ? '+' : '−'}${upTo(0).format(Math.abs(change))} %`;
}

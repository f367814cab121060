import { readMoment } from '../../instant';
import { quoteValue } from '../../quote-value';
import type { Money } from '../schema';
import { isCurrency, minorDigits, readAmount } from '../worth';
import type { FilePart } from './parts';
import type { FiledHow } from './schema';

export const fileChanges = ['new', 'revalued', 'taken-back'] as const;
export type FileChange = (typeof fileChanges)[number];

/** A row of a file, read. */
export interface FiledRow {
  clickId: string;
  /** What it calls the outcome. */
  says: string;
  /** ms */
  at: number;
  /** Null where it says none. */
  money: Money | null;
  orderId: string;
  change: FileChange;
}

/** Why a row cannot be taken, and what would be right. */
export interface WrongRow {
  part: FilePart;
  was: string;
  fix: string;
}

const longestClickId = 300;
const longestOrderId = 80;

/**
 * Reads a row of a file of conversions.
 *
 * @param cells by the headings of their columns
 * @param localTime the instant (ms) of a time without its zone; a day alone counts as its noon
 * @param now ms; nothing happens later
 */
export function readFiledRow(
  cells: Record<string, string>,
  how: FiledHow,
  localTime: (text: string) => number | null,
  now: number,
): FiledRow | WrongRow {
  const cell = (part: FilePart) => (how.columns[part] === '' ? '' : (cells[how.columns[part]!] ?? '').trim());
  const wrong = (part: FilePart, was: string, fix: string): WrongRow => ({ part, was, fix });

  const [clickId, orderId] = [cell('click_id'), cell('order_id')];
  const change = cell('change').toLowerCase().replace(/[ _]/g, '-') || 'new';
  if (!isChange(change))
    return wrong('change', `${quoteValue(cell('change'))} is no change`, 'Write new, revalued or taken-back.');
  if (clickId === '' && (change === 'new' || orderId === ''))
    return wrong('click_id', 'it has no click ID', 'Only rows that name the click can be told to its platform.');
  if (clickId.length > longestClickId)
    return wrong(
      'click_id',
      `its click ID has ${clickId.length} characters`,
      `No click ID has more than ${longestClickId}.`,
    );
  if (orderId.length > longestOrderId)
    return wrong('order_id', `its order number has ${orderId.length} characters`, `Use at most ${longestOrderId}.`);
  const says = cell('outcome') || how.says;
  if (says === '' && how.compares === '')
    return wrong('outcome', 'it does not say which outcome it is', 'Name it in each row, or for the whole file.');

  const at = readMoment(writtenDate(cell('happened_at'), how.dates), localTime);
  if (at === null)
    return cell('happened_at') === ''
      ? wrong('happened_at', 'it does not say when it happened', 'Write a time such as 2027-02-15 17:00.')
      : wrong(
          'happened_at',
          `${quoteValue(cell('happened_at'))} is no time`,
          `Write it as 2027-02-15 17:00, ${how.dates === 'day first' ? '15/02/2027' : '02/15/2027'} 17:00 or 2027-02-15T17:00:00Z.`,
        );
  if (at > now)
    return wrong('happened_at', 'it has not happened yet', 'Look at the time zone and at how days are written.');

  const money = readMoney(cell('amount'), cell('currency') || how.currency, how);
  if (money && 'part' in money) return money;
  if (change === 'revalued' && !money)
    return wrong('amount', 'it does not say what it is worth now', 'Write the whole new amount, not the difference.');
  return { clickId, says, at, money, orderId, change };
}

const isChange = (text: string): text is FileChange => (fileChanges as readonly string[]).includes(text);

/** A day that begins with no year, as one that begins with the day. */
const writtenDate = (text: string, dates: FiledHow['dates']): string =>
  dates === 'month first' ? text.replace(/^(\d{1,2})([./])(\d{1,2})([./]\d{4})/, '$3$2$1$4') : text;

/** What is written between thousands. */
const spaces = /[\s\u00a0\u202f'’]/g;
const written = {
  point: /^-?(\d{1,3}(,\d{3})+|\d+)(\.\d+)?$/,
  comma: /^-?(\d{1,3}(\.\d{3})+|\d+)(,\d+)?$/,
};

function readMoney(amount: string, currency: string, { decimals }: FiledHow): Money | WrongRow | null {
  if (amount === '') return null;
  const code = currency.trim().toUpperCase();
  if (!isCurrency(code))
    return {
      part: 'currency',
      was: code === '' ? 'its amount has no currency' : `${quoteValue(currency)} is no currency`,
      fix: 'Write three letters such as GBP, in each row or for the whole file.',
    };
  const plain = amount.replace(spaces, '');
  const text = decimals === 'comma' ? plain.replaceAll('.', '').replace(',', '.') : plain.replaceAll(',', '');
  const money = written[decimals].test(plain) ? readAmount(text, code) : null;
  if (money && money.minor >= 0) return money;
  const digits = minorDigits(code);
  const example = `12${digits === 0 ? '' : `${decimals === 'comma' ? ',' : '.'}${'5'.padEnd(digits, '0')}`}`;
  return {
    part: 'amount',
    was: `${quoteValue(amount)} is no amount in ${code}`,
    fix: `Write a number such as ${example}, with ${digits} digits after its decimal ${decimals} at most.`,
  };
}

import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';
import { readDrawnAt } from './drawn';

const formats = new Map<string, Intl.DateTimeFormat>();

function parts(iso: string, timeZone: string, options: Intl.DateTimeFormatOptions) {
  const key = timeZone + JSON.stringify(options);
  const known = formats.get(key) ?? new Intl.DateTimeFormat('en-GB', { timeZone, ...options });
  formats.set(key, known);
  const found = known.formatToParts(new Date(iso));
  return (type: Intl.DateTimeFormatPartTypes) => found.find((part) => part.type === type)?.value ?? '';
}

/** " 2026" where a time lies in another year than the page, else ''. */
function otherYear(iso: string, timeZone: string): string {
  const drawnAt = readDrawnAt();
  if (Number.isNaN(drawnAt)) return '';
  const yearOf = (text: string) => parts(text, timeZone, { year: 'numeric' })('year');
  const year = yearOf(iso);
  return year === yearOf(new Date(drawnAt).toISOString()) ? '' : ` ${year}`;
}

/** "14 Jan, 09:42" in the business's time zone; "14 Jan 2026, 09:42" in another year. */
export function shortTime(iso: string, timeZone: string): string {
  const part = parts(iso, timeZone, {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  });
  return `${part('day')} ${part('month')}${otherYear(iso, timeZone)}, ${part('hour')}:${part('minute')}`;
}

/** The second of a time, the same in every time zone: "07". */
export const secondOf = (iso: string): string => iso.slice(17, 19);

/** "14 Jan 2027" in the business's time zone. */
export function dayOfYear(iso: string, timeZone: string): string {
  const part = parts(iso, timeZone, { day: 'numeric', month: 'short', year: 'numeric' });
  return `${part('day')} ${part('month')} ${part('year')}`;
}

/** Exact, for the pointer: "14 January 2027, 09:42:10 GMT". */
export function exactTime(iso: string, timeZone: string): string {
  const part = parts(iso, timeZone, {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
    hourCycle: 'h23',
    timeZoneName: 'short',
  });
  return `${part('day')} ${part('month')} ${part('year')}, ${part('hour')}:${part('minute')}:${part('second')} ${part('timeZoneName')}`;
}

/** An instant as a field for day and time holds it in a time zone: 2027-03-31T19:00. */
export const toLocalField = (iso: string, timeZone: string): string =>
  format(new TZDate(iso, timeZone), "yyyy-MM-dd'T'HH:mm");

/** The instant that such a field's text means in a time zone, in UTC; '' where it means none. */
export function fromLocalField(text: string, timeZone: string): string {
  const found = /^(\d{4})-(\d{2})-(\d{2})T(\d{2}):(\d{2})$/.exec(text);
  if (!found) return '';
  const [year = 0, month = 0, day = 0, hour = 0, minute = 0] = found.slice(1).map(Number);
  return new Date(new TZDate(year, month - 1, day, hour, minute, timeZone).getTime()).toISOString();
}

/** "19 Jan" of a day such as 2027-01-19; "19 Jan 2026" in another year. */
export function dayWords(day: string): string {
  const iso = `${day}T00:00:00Z`;
  const part = parts(iso, 'UTC', { day: 'numeric', month: 'short' });
  return `${part('day')} ${part('month')}${otherYear(iso, 'UTC')}`;
}

/** "Jan 2027" of a month such as 2027-01. */
export function monthWords(month: string): string {
  const part = parts(`${month}-01T00:00:00Z`, 'UTC', { month: 'short', year: 'numeric' });
  return `${part('month')} ${part('year')}`;
}

/** A quarter such as `2027-Q1` as people read it: "Q1 2027". */
export const quarterWords = (quarter: string): string => quarter.split('-').reverse().join(' ');

import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';
import { nowMs } from './clock';

/** No zone changes its offset within one. */
const quarterHour = 900_000;
const known = new Map<string, string>();

/** The day (`2027-02-15`) of an instant (ms) in a time zone; those of one quarter of an hour are reckoned once. */
export function dayIn(timeZone: string, at: number): string {
  const key = `${timeZone} ${Math.floor(at / quarterHour)}`;
  const before = known.get(key);
  if (before !== undefined) return before;
  if (known.size >= 10_000) known.clear();
  const day = format(new TZDate(at, timeZone), 'yyyy-MM-dd');
  known.set(key, day);
  return day;
}

/** "14 Jan, 09:42" in a time zone; "14 Jan 2026, 09:42" in another year. */
export function dayWords(ms: number, timeZone: string): string {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  });
  const [part, now] = [ms, nowMs()].map((at) => {
    const found = parts.formatToParts(at);
    return (type: string) => found.find((one) => one.type === type)?.value ?? '';
  }) as [(type: string) => string, (type: string) => string];
  const year = part('year') === now('year') ? '' : ` ${part('year')}`;
  return `${part('day')} ${part('month')}${year}, ${part('hour')}:${part('minute')}`;
}

/**
 * The instant (ms) of a time as clocks of a time zone show it: "2027-02-15 17:00", "2027-02-15T17:00:30", "15/02/2027 17:00",
 * "15.02.2027 17:00"; null for what is none.
 */
export function instantIn(timeZone: string, text: string): number | null {
  const [, year, month, day, days, months, years, hours, minutes, seconds] =
    /^(?:(\d{4})-(\d\d?)-(\d\d?)|(\d\d?)[./](\d\d?)[./](\d{4}))[T ]+(\d\d?):(\d\d)(?::(\d\d))?(?:\.\d+)?$/.exec(
      text.trim(),
    ) ?? [];
  if (hours === undefined) return null;
  const given = [year ?? years, month ?? months, day ?? days, hours, minutes, seconds ?? 0].map(Number);
  const [y, m, d, h, min, s] = given as [number, number, number, number, number, number];
  if (m < 1 || m > 12 || d < 1 || d > new Date(Date.UTC(y, m, 0)).getUTCDate() || h > 23 || min > 59 || s > 59)
    return null;
  return new TZDate(y, m - 1, d, h, min, s, timeZone).getTime();
}

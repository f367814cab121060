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

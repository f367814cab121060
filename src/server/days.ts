import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';

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

import { dayOfYear, exactTime, shortTime } from './time';

/** A time, exact under the pointer; `far` shows the day with its year instead of the hour. */
export function Time({ iso, timeZone, far = false }: { iso: string; timeZone: string; far?: boolean }) {
  return (
    <time dateTime={iso} title={exactTime(iso, timeZone)} className="whitespace-nowrap">
      {far ? dayOfYear(iso, timeZone) : shortTime(iso, timeZone)}
    </time>
  );
}

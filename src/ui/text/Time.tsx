import { dayOfYear, exactTime, secondOf, shortTime } from './time';

/** A time, exact under the pointer; `far` shows the day with its year instead of the hour, `seconds` the second too. */
export function Time({
  iso,
  timeZone,
  far = false,
  seconds = false,
}: {
  iso: string;
  timeZone: string;
  far?: boolean;
  seconds?: boolean;
}) {
  return (
    <time dateTime={iso} title={exactTime(iso, timeZone)} className="whitespace-nowrap">
      {far ? dayOfYear(iso, timeZone) : shortTime(iso, timeZone)}
      {seconds && `:${secondOf(iso)}`}
    </time>
  );
}

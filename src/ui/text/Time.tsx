import { exactTime, shortTime } from './time';

export function Time({ iso, timeZone }: { iso: string; timeZone: string }) {
  return (
    <time dateTime={iso} title={exactTime(iso, timeZone)} className="whitespace-nowrap">
      {shortTime(iso, timeZone)}
    </time>
  );
}

import { TZDate } from '@date-fns/tz';

/** When a business answers. Days of the week as ISO 8601 counts them, 1 is Monday; times such as `09:00`. */
export interface WorkingHours {
  days: number[];
  from: string;
  to: string;
}

export const usualHours: WorkingHours = { days: [1, 2, 3, 4, 5], from: '09:00', to: '17:00' };

/** Days that are looked at; what lies longer apart counts as that long. */
const mostDays = 400;
const day = 86_400_000;

/** Gives the minutes of working time between two moments (ms). */
export type WorkingTime = (from: number, to: number) => number;

/** When (ms) a day opens and closes; both the same on one on which nobody works. @param n days since 1970 */
type OpenOn = (n: number) => readonly [open: number, close: number];

/** Opening times in a time zone. A day on which clocks are put forward or back has the hours it has. Each day is reckoned once. */
export function makeOpenOn(hours: WorkingHours, timeZone: string): OpenOn {
  const [[openHour, openMinute], [closeHour, closeMinute]] = [clock(hours.from), clock(hours.to)];
  const known = new Map<number, readonly [open: number, close: number]>();
  return (n) => {
    const before = known.get(n);
    if (before) return before;
    const date = new Date(n * day);
    const [year, month, dayOfMonth] = [date.getUTCFullYear(), date.getUTCMonth(), date.getUTCDate()];
    const at = (hour: number, minute: number) => new TZDate(year, month, dayOfMonth, hour, minute, timeZone).getTime();
    const open = at(openHour, openMinute);
    // Sunday is 0 here, and 7 in ISO 8601.
    const works = hours.days.includes(date.getUTCDay() || 7);
    const found = [open, works ? at(closeHour, closeMinute) : open] as const;
    known.set(n, found);
    return found;
  };
}

/**
 * Working time in a time zone: what comes on a Friday evening and is answered on Monday at five past nine took five
 * minutes.
 */
export function makeWorkingTime(hours: WorkingHours, timeZone: string): WorkingTime {
  const openOn = makeOpenOn(hours, timeZone);
  return (from, to) => {
    if (to <= from) return 0;
    let total = 0;
    // A day begins up to 14 hours before it does in UTC, and up to 12 after.
    const first = Math.floor(from / day) - 1;
    for (let n = first; n <= first + mostDays; n++) {
      const [open, close] = openOn(n);
      if (open >= to) break;
      total += Math.max(0, Math.min(to, close) - Math.max(from, open));
    }
    return total / 60_000;
  };
}

const clock = (text: string): [hour: number, minute: number] => {
  const [hour = 0, minute = 0] = text.split(':').map(Number);
  return [hour, minute];
};

import { TZDate } from '@date-fns/tz';
import { addDays, format, isValid, startOfDay } from 'date-fns';
import { median, type Period, type RangeChoice } from '../../core/strands';
import type { BusinessRow } from '../db';
import { nowMs } from '../clock';

export interface Range {
  choice: RangeChoice['range'];
  period: Period;
  /** First and last day of the business, `2027-02-15`. */
  firstDay: string;
  lastDay: string;
}

/** Days since the first landing of a strand until it qualified; half of the deals took longer than the median. */
export const cycleDays = (hours: number[]): number | null => {
  const middle = median(hours);
  return middle === null ? null : Math.max(1, Math.round(middle / 24));
};

/**
 * Turns a choice into days of the business's time zone. `release` begins when the live release was made, `cycle` is
 * the median number of days from click to Qualified.
 */
export function resolveRange(
  choice: RangeChoice,
  business: BusinessRow,
  facts: { cycle: number | null; releasedAt: number },
): Range {
  const zone = business.timeZone;
  const today = startOfDay(new TZDate(nowMs(), zone));
  const back = (days: number) => addDays(today, 1 - days);
  const starts: Record<Exclude<RangeChoice['range'], 'own'>, Date> = {
    week: back(7),
    weeks4: back(28),
    cycle: back(facts.cycle ?? 28),
    release: startOfDay(new TZDate(facts.releasedAt, zone)),
  };
  let from: Date = choice.range === 'own' ? dayIn(choice.from!, zone) : starts[choice.range];
  let last: Date = choice.range === 'own' ? dayIn(choice.to!, zone) : today;
  if (!isValid(from) || !isValid(last)) [from, last] = [starts.weeks4, today];
  if (last < from) [from, last] = [last, from];
  return {
    choice: choice.range,
    period: { from: from.getTime(), to: addDays(last, 1).getTime() },
    firstDay: format(from, 'yyyy-MM-dd'),
    lastDay: format(last, 'yyyy-MM-dd'),
  };
}

/** The time from the beginning of one day to the end of another in a time zone. */
export const periodOf = (firstDay: string, lastDay: string, zone: string): Period => ({
  from: dayIn(firstDay, zone).getTime(),
  to: addDays(dayIn(lastDay, zone), 1).getTime(),
});

function dayIn(text: string, zone: string): Date {
  const [year, month, date] = text.split('-').map(Number) as [number, number, number];
  return new TZDate(year, month - 1, date, zone);
}

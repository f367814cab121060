import { TZDate } from '@date-fns/tz';
import { addDays, format, isValid, startOfDay } from 'date-fns';
import { median, type Period, type RangeChoice } from '../../core/strands';
import type { BusinessRow } from '../db';
import { nowMs } from '../clock';

/** The first and the last of some days of a business, such as `2027-02-15`. */
export interface DaySpan {
  firstDay: string;
  lastDay: string;
}

export interface Range<Choice = RangeChoice['range']> extends DaySpan {
  choice: Choice;
  period: Period;
}

/** Days as an address chooses them; figures know more of them than the line. */
export interface DaysChoice<Choice extends RangeChoice['range'] | 'weeks13' = RangeChoice['range']> {
  range: Choice;
  from?: string | undefined;
  to?: string | undefined;
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
export function resolveRange<Choice extends RangeChoice['range'] | 'weeks13'>(
  choice: DaysChoice<Choice>,
  business: BusinessRow,
  facts: { cycle: number | null; releasedAt: number },
): Range<Choice> {
  const zone = business.timeZone;
  const today = startOfDay(new TZDate(nowMs(), zone));
  const back = (days: number) => addDays(today, 1 - days);
  const starts: Record<Exclude<RangeChoice['range'], 'own'> | 'weeks13', Date> = {
    week: back(7),
    weeks4: back(28),
    weeks13: back(91),
    cycle: back(facts.cycle ?? 28),
    release: startOfDay(new TZDate(facts.releasedAt, zone)),
  };
  const { range } = choice;
  let [from, last] =
    range === 'own'
      ? [dayIn(choice.from!, zone), dayIn(choice.to!, zone)]
      : [starts[range as Exclude<Choice, 'own'>], today];
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

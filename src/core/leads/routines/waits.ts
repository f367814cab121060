import { TZDate } from '@date-fns/tz';
import { addDays } from 'date-fns';
import { makeOpenOn, type WorkingHours } from '../working-hours';
import type { Step } from './routine';

const [hour, day] = [3_600_000, 86_400_000];
/** Days that are looked at for working time; a business that never works is waited for no longer. */
const mostDays = 800;

/** When (ms) a step is due that comes after another one at `from`. */
export type DueAfter = (from: number, step: Pick<Step, 'wait' | 'amount'>) => number;

/**
 * Waits in a business's time zone and working hours. A day later is the same time by its clocks, also over the night on which
 * they are changed; a working day later is the same time on the next day on which it works, moved into its hours; so many
 * working hours later is when it was open that long.
 */
export function makeDueAfter(hours: WorkingHours, timeZone: string): DueAfter {
  const openOn = makeOpenOn(hours, timeZone);
  const isOpen = (n: number) => openOn(n)[1] > openOn(n)[0];
  /** The day (since 1970) on which a moment is by the business's clocks. */
  const dayOf = (at: number) => {
    const local = new TZDate(at, timeZone);
    return Date.UTC(local.getFullYear(), local.getMonth(), local.getDate()) / day;
  };

  function afterWorkingDays(from: number, amount: number): number {
    let [n, left] = [dayOf(from), amount];
    const last = n + mostDays;
    while (left > 0 && n < last) if (isOpen(++n)) left -= 1;
    const [open, close] = openOn(n);
    const sameTime = addDays(new TZDate(from, timeZone), n - dayOf(from)).getTime();
    return Math.min(Math.max(sameTime, open), close);
  }

  function afterWorkingHours(from: number, amount: number): number {
    let left = amount * hour;
    const first = dayOf(from);
    for (let n = first; n < first + mostDays; n++) {
      const [open, close] = openOn(n);
      const begin = Math.max(from, open);
      if (begin >= close) continue;
      if (close - begin >= left) return begin + left;
      left -= close - begin;
    }
    return from + amount * hour;
  }

  return (from, { wait, amount }) => {
    switch (wait) {
      case 'at_once':
        return from;
      case 'hours':
        return from + amount * hour;
      case 'days':
        return addDays(new TZDate(from, timeZone), amount).getTime();
      case 'working_hours':
        return afterWorkingHours(from, amount);
      case 'working_days':
        return afterWorkingDays(from, amount);
    }
  };
}

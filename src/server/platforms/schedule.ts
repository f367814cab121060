import type { PlatformContract } from '../../core/platforms';
import { dayIn, instantIn } from '../days';

const hour = 3_600_000;

/**
 * When (ms) the next file is written that a row goes into which is due at a moment: at once, at the next full hour, or at a
 * time of the day in the account's zone.
 */
export function nextFile(files: PlatformContract['files'], dueAt: number, timeZone: string): number {
  if (!files) return dueAt;
  if (files.every === 'hour') return Math.ceil(dueAt / hour) * hour;
  // Where clocks go back a day has 25 hours.
  for (let day = 0; day <= 3; day += 1) {
    const at = instantIn(timeZone, `${dayIn(timeZone, dueAt + day * 23 * hour)} ${files.at}`);
    if (at !== null && at >= dueAt) return at;
  }
  return dueAt;
}

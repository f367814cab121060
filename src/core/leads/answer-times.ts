import { median } from '../strands/range';
import type { Quality } from './quality';
import type { WorkingTime } from './working-hours';

/** An enquiry as far as answering it goes. Times in ms. */
export interface AnsweredEnquiry {
  sentAt: number;
  /** When it was first answered; null while it was not. */
  answeredAt: number | null;
  quality: Quality;
}

/** How fast a group of enquiries was answered, in minutes of working time. */
export interface AnswerTimes {
  key: string;
  enquiries: number;
  answered: number;
  /** Half were answered within so many minutes, nine of ten within `slow`; null where none was. */
  median: number | null;
  slow: number | null;
  /** Not answered yet. */
  waiting: number;
}

/** Of sorted numbers the one that nine of ten are not above (nearest rank); null of none. */
const ninetieth = (sorted: number[]): number | null =>
  sorted.length === 0 ? null : sorted[Math.ceil(sorted.length * 0.9) - 1]!;

/**
 * How long people waited for the first answer, by group, the largest group first. What was no enquiry is in none.
 *
 * @param keyOf the group that an enquiry is of; null where it is of none
 */
export function answerTimesBy<Enquiry extends AnsweredEnquiry>(
  enquiries: readonly Enquiry[],
  keyOf: (enquiry: Enquiry) => string | null,
  working: WorkingTime,
): AnswerTimes[] {
  const groups = new Map<string, Enquiry[]>();
  for (const one of enquiries) {
    const key = one.quality === 'no_enquiry' ? null : keyOf(one);
    if (key === null) continue;
    const group = groups.get(key);
    if (group) group.push(one);
    else groups.set(key, [one]);
  }
  return [...groups]
    .map(([key, group]): AnswerTimes => {
      const times = group
        .flatMap(({ sentAt, answeredAt }) => (answeredAt === null ? [] : [working(sentAt, answeredAt)]))
        .sort((a, b) => a - b);
      return {
        key,
        enquiries: group.length,
        answered: times.length,
        median: median(times),
        slow: ninetieth(times),
        waiting: group.filter(({ quality }) => quality === 'unanswered').length,
      };
    })
    .sort((a, b) => b.enquiries - a.enquiries || (a.key < b.key ? -1 : 1));
}

/** Minutes in words: "45 min", "1 h 20 min", "12 h". */
export function minuteWords(minutes: number): string {
  const whole = Math.round(minutes);
  if (whole < 60) return `${whole} min`;
  const hours = Math.floor(whole / 60);
  const rest = whole % 60;
  return rest === 0 || hours >= 10 ? `${Math.round(whole / 60)} h` : `${hours} h ${rest} min`;
}

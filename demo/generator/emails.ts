import type { DemoEvent } from './journeys';

const [hour, day] = [3_600_000, 86_400_000];
/** Days before the last one since when leads get emails. */
export const emailDays = 16;

/** Leads get emails in the last weeks, and one of them writes back. */
export function generateEmails(end: number): DemoEvent[] {
  const lastMidnight = Math.floor(end / day) * day;
  return [
    { kind: 'starts_routines', at: lastMidnight - emailDays * day + 8 * hour },
    { kind: 'writes_back', at: lastMidnight - day + 10 * hour, text: 'Thank you. Tuesday morning suits us.' },
  ];
}

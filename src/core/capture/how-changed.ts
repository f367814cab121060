import { decodePart } from './address';

/** What happened to a value between two hops, as far as the two values show it. */
export function howChanged(before: string, now: string): string {
  if (before.startsWith(now)) return `cut at ${now.length} characters`;
  if (before.toLowerCase() === now.toLowerCase()) return 'upper and lower case changed';
  if (decodePart(before) === decodePart(now)) return 'encoded differently';
  return 'another value';
}

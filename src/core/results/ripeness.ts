/*
 * How long after their click outcomes come, and so how much of what recent clicks bring has come by now
 * (docs/results.md, Ripeness). What is not there yet cannot be seen, so that a plain average over recent clicks would be too short:
 * each delay is held against those alone whose clicks are old enough to have it.
 */

/** One outcome: how many whole days after its click it came, and how many days ago that click was. */
export interface Delay {
  days: number;
  age: number;
}

/** Which share of what comes in the end has come so many whole days after the click: 0 to 1, never less with more days. */
export type Completeness = (days: number) => number;

/** Fewer outcomes than this say nothing of how long others take. */
export const fewestDelays = 10;

/**
 * The share that has come by each age, by the reverse hazard of delays that are cut off by today (as delays of reports are
 * estimated): of those that came after `d` days at most and whose click is old enough for `d`, how many came after exactly `d`.
 * Where fewer than ten are old enough nothing can be said: from there on everything counts as come.
 *
 * @returns null where too few are known
 */
export function completenessOf(delays: readonly Delay[]): Completeness | null {
  if (delays.length < fewestDelays) return null;
  const longest = delays.reduce((most, { days }) => Math.max(most, days), 0);
  const [came, risk] = [new Array<number>(longest + 1).fill(0), new Array<number>(longest + 2).fill(0)];
  for (const { days, age } of delays) {
    came[days]! += 1;
    // It could have been seen to come after any number of days from its own to the age of its click.
    risk[days]! += 1;
    risk[Math.min(age, longest) + 1]! -= 1;
  }
  for (let d = 1; d <= longest; d += 1) risk[d]! += risk[d - 1]!;
  const last = risk.findLastIndex((many) => many >= fewestDelays);
  if (last === -1) return null;
  const share: number[] = [];
  for (let d = last, left = 1; d >= 0; d -= 1) {
    share[d] = left;
    if (risk[d]! > 0) left *= 1 - came[d]! / risk[d]!;
  }
  return (days) => (days < 0 ? 0 : days >= last ? 1 : share[days]!);
}

/** After how many days so much of it has come (a share such as 0.5). */
export function daysUntil(completeness: Completeness, share: number): number {
  let days = 0;
  // Rounding leaves a hair.
  while (completeness(days) < share - 1e-9) days += 1;
  return days;
}

/** How complete what came of some clicks is: each day's by its age, weighed by its clicks; null without any clicks. */
export function completenessOfDays(
  completeness: Completeness,
  days: readonly { age: number; clicks: number }[],
): number | null {
  const all = days.reduce((sum, { clicks }) => sum + clicks, 0);
  return all === 0 ? null : days.reduce((sum, { age, clicks }) => sum + clicks * completeness(age), 0) / all;
}

/** From this share on it is not expected to change much. */
export const ripeShare = 0.9;

/** Some clicks with what came of them; `complete`: the share that usually has come by now. */
export interface Cohort {
  clicks: number;
  came: number;
  complete: number | null;
}
export type Verdict = 'more' | 'fewer' | 'as usual' | 'too early';

/**
 * Whether more or fewer came of each than of the other ripe ones together, by more than chance does (two standard deviations of
 * a count). What is unripe is left out, on both sides.
 */
export function verdictsOf(cohorts: readonly Cohort[]): Verdict[] {
  const isRipe = ({ complete }: Cohort) => complete !== null && complete >= ripeShare;
  const sum = (read: (cohort: Cohort) => number) =>
    cohorts.filter(isRipe).reduce((all, cohort) => all + read(cohort), 0);
  const [clicks, came] = [sum((one) => one.clicks), sum((one) => one.came)];
  return cohorts.map((cohort) => {
    const others = clicks - cohort.clicks;
    if (!isRipe(cohort) || others <= 0) return 'too early';
    const expected = ((came - cohort.came) / others) * cohort.clicks;
    if (Math.abs(cohort.came - expected) <= 2 * Math.sqrt(Math.max(1, expected))) return 'as usual';
    return cohort.came > expected ? 'more' : 'fewer';
  });
}

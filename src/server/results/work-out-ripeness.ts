import type { Sequelize } from 'sequelize';
import { differenceInCalendarDays, parseISO } from 'date-fns';
import { reachedInTime } from '../../core/outcomes/reached';
import { cellOf, mondayOf, type Dimension, type Reading } from '../../core/results/dimensions';
import { readingOf } from '../../core/results/reading';
import {
  completenessOf,
  completenessOfDays,
  daysUntil,
  verdictsOf,
  type Completeness,
  type Delay,
} from '../../core/results/ripeness';
import type { LimitView, Measured, RipeningWeek } from '../../core/results/ripeness-view';
import { groupBy } from '../../core/group-by';
import { dayIn } from '../days';
import { inParts } from '../lists';
import { readCounted, readDealsOf, type CountedRow, type StagedDeal } from './bridge-queries';
import type { AskedOutcome } from './asked-business';
import { connected } from './connected';
import { readVisits } from './queries';

const day = 86_400_000;
/** Outcomes that are no older than this say how long others take. */
export const delaysOver = 400 * day;

/** Something that ends so many days after a click; of clicks of one kind of platform, or ('') of all. */
export interface AskedLimit {
  key: string;
  platform: string;
  days: number;
}

/** What a thread is asked; the days are those whose weeks are shown. */
export interface AskedRipeness extends AskedOutcome {
  by: Dimension;
  limits: AskedLimit[];
}
export interface WorkedOutRipeness {
  all: Measured;
  rows: (Measured & { cell: string })[];
  weeks: RipeningWeek[];
  limits: Omit<LimitView, 'words'>[];
}

interface Known extends Delay {
  row: CountedRow;
  /** ms */
  clickedAt: number;
  cell: string;
}

/** How long after their click outcomes come, and how much of what the last weeks' clicks bring has come. */
export async function workOutRipeness(asked: AskedRipeness): Promise<WorkedOutRipeness> {
  const db = connected(asked.databaseUrl);
  const known = await readDelays(db, asked, readingOf(asked.content));
  const completeness = completenessOf(known);
  const longest = known.reduce((most, { days }) => Math.max(most, days), 0);
  const groups = [...groupBy(known, ({ cell }) => cell)].sort(
    (a, b) => b[1].length - a[1].length || (a[0] < b[0] ? -1 : 1),
  );
  return {
    all: measured(known, longest),
    rows: groups.map(([cell, own]) => ({ cell, ...measured(own, longest) })),
    weeks: await readWeeks(db, asked, known, completeness),
    limits: await readLimits(db, asked, known),
  };
}

/** Outcomes that came of a click, or a tagged landing, of customers. */
async function readDelays(db: Sequelize, asked: AskedRipeness, reading: Reading): Promise<Known[]> {
  const { businessId, rule, now, by } = asked;
  const rows = await readCounted(db, businessId, rule.code, new Date(now - delaysOver));
  return rows.flatMap((row) => {
    const clickedAt = row.firstAt?.getTime();
    const at = row.happenedAt.getTime();
    if (row.isNone || clickedAt === undefined || clickedAt > at) return [];
    const origin = {
      source: row.source ?? '',
      medium: row.medium ?? '',
      campaign: row.campaign ?? '',
      content: row.content ?? '',
      platform: row.kind === 'click' ? (row.platform ?? '') : '',
      term: '',
      referrerHost: '',
      landing: '',
    };
    const cell = cellOf(by, origin, '', reading);
    return [
      { row, clickedAt, cell, days: Math.floor((at - clickedAt) / day), age: Math.floor((now - clickedAt) / day) },
    ];
  });
}

function measured(delays: readonly Delay[], longest: number): Measured {
  const completeness = completenessOf(delays);
  if (!completeness) return { count: delays.length, half: null, nine: null, curve: [] };
  return {
    count: delays.length,
    half: daysUntil(completeness, 0.5),
    nine: daysUntil(completeness, 0.9),
    curve: Array.from({ length: longest + 1 }, (_, days) => completeness(days)),
  };
}

/** Weeks of clicks, the newest first, with what came of them by now. */
async function readWeeks(
  db: Sequelize,
  { businessId, firstDay, lastDay, timeZone, now }: AskedRipeness,
  known: readonly Known[],
  completeness: Completeness | null,
): Promise<RipeningWeek[]> {
  const visits = await readVisits(db, businessId, { firstDay, lastDay }, ['day']);
  const today = parseISO(dayIn(timeZone, now));
  const ageOf = (of: string) => differenceInCalendarDays(today, parseISO(of));
  const came = groupBy(known, ({ clickedAt }) => mondayOf(dayIn(timeZone, clickedAt)));
  const weeks = [...groupBy(visits, (one) => mondayOf(one.day))].sort(([a], [b]) => (a < b ? 1 : -1));
  const cohorts = weeks.map(([week, own]) => {
    const days = own.map((one) => ({ age: ageOf(one.day), clicks: one.visits }));
    return {
      week,
      clicks: days.reduce((sum, { clicks }) => sum + clicks, 0),
      came: came.get(week)?.length ?? 0,
      complete: completeness && completenessOfDays(completeness, days),
    };
  });
  const verdicts = verdictsOf(cohorts);
  return cohorts.map(({ clicks, ...cohort }, i) => ({ ...cohort, visits: clicks, verdict: verdicts[i]! }));
}

/** How many came after each limit, and which stage before they had reached in time. */
async function readLimits(
  db: Sequelize,
  { businessId, rule, stages, limits }: AskedRipeness,
  known: readonly Known[],
): Promise<WorkedOutRipeness['limits']> {
  const shortest = Math.min(...limits.map(({ days }) => days));
  const late = known.filter(({ row, days }) => row.subjectKind === 'enquiry' && days >= shortest);
  const dealsOf = new Map<string, StagedDeal[]>();
  for await (const part of inParts(
    late.map(({ row }) => row.subjectId),
    (ids) => readDealsOf(db, businessId, ids),
  ))
    for (const [id, own] of groupBy(part, ({ enquiryId }) => enquiryId)) dealsOf.set(id, own);
  return limits.map(({ key, platform, days: limit }) => {
    const own = known.filter(
      ({ row, age }) => age >= limit && (platform === '' || (row.kind === 'click' && row.platform === platform)),
    );
    const later = own.filter(({ days }) => days >= limit);
    const reached = later.flatMap(({ row, clickedAt }) => {
      const changes = (dealsOf.get(row.subjectId) ?? []).flatMap((deal) => deal.changes ?? []);
      return reachedInTime(rule, changes, stages, clickedAt, limit)?.stage ?? [];
    });
    const [stage] = [...groupBy(reached, (one) => one)].sort((a, b) => b[1].length - a[1].length);
    return {
      key,
      days: limit,
      late: later.length,
      of: own.length,
      earlier: stage ? { stage: stage[0], count: stage[1].length } : null,
      isStaged: rule.reachedBy.kind === 'stage',
    };
  });
}

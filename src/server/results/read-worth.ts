import type { Sequelize } from 'sequelize';
import { moneyCodes, winningCodes } from '../../core/results/brought';
import type { Measure } from '../../core/results/measures';
import { groupBy } from '../../core/group-by';
import { dayIn } from '../days';
import { inParts } from '../lists';
import { originOf } from './origin-of';
import { readReached, type ReachedRow } from './queries';
import { readBrought } from './read-brought';
import { readPaths, readVisitorsOf } from './read-paths';
import type { Report } from './report-progress';
import { allOf, type AskedFigures, type Subject } from './asked-figures';
import { readSubscriptionsBegun, readVisitsOfSome } from './worth-queries';

/* What came of some days later: of the subscriptions that began in them, and of the browsers that were first there. */

const thirtyDays = 30 * 86_400_000;
/** Later than anything that happened. */
const ever = new Date('9999-01-01T00:00:00Z');

interface Worth {
  subjects: Subject[];
  withoutRate: string[];
}

/** What subscriptions that began in some days brought until today, and what browsers brought within 30 days of their first visit in them. */
export async function readWorth(
  db: Sequelize,
  asked: AskedFigures,
  counted: readonly Measure[],
  [from, to]: readonly [Date, Date],
  report: Report,
): Promise<Worth> {
  const nothing: Worth = { subjects: [], withoutRate: [] };
  const hasLifetime = counted.includes('lifetime') || counted.includes('subscribers');
  const hasThirty = counted.includes('profit_30');
  // Neither subscriptions nor visitors are of a segment, which is one of enquiries.
  if (asked.segment !== null || (!hasLifetime && !hasThirty)) return nothing;
  const { businessId, rules } = asked;
  const until = hasLifetime ? ever : new Date(to.getTime() + thirtyDays);
  const reached = await readReached(db, businessId, moneyCodes(rules), winningCodes(rules), [from, until], null);
  const brought = await readBrought(db, asked, reached);
  const profitOf = (row: ReachedRow) => brought.of(row).amounts.profit ?? 0;
  return {
    subjects: [
      ...(hasLifetime ? await readLifetimes(db, asked, reached, profitOf, [from, to], report) : []),
      ...(hasThirty ? await readThirty(db, asked, reached, profitOf, [from, to]) : []),
    ],
    withoutRate: brought.withoutRate,
  };
}

/** Subscriptions that began, each with all that its payments and renewals brought, credited to what led to its sign-up. */
async function readLifetimes(
  db: Sequelize,
  { businessId, timeZone, tables }: AskedFigures,
  reached: readonly ReachedRow[],
  profitOf: (row: ReachedRow) => number,
  days: readonly [Date, Date],
  report: Report,
): Promise<Subject[]> {
  const begun = await readSubscriptionsBegun(db, businessId, days);
  const rows = begun.map(({ id, firstAt, visitorId }) => ({
    id,
    until: firstAt.getTime(),
    touchId: null,
    visitorId,
    personId: null,
  }));
  const visitorsOf = await readVisitorsOf(db, businessId, rows);
  const touchesOf = await readPaths(db, businessId, rows, visitorsOf, allOf(tables), report);
  const own = groupBy(reached, ({ subjectKind, subjectId }) => `${subjectKind} ${subjectId}`);
  return rows.map((row) => ({
    id: row.id,
    kind: 'subscription',
    subjectId: row.id,
    code: '',
    at: row.until,
    day: dayIn(timeZone, row.until),
    until: row.until,
    touches: touchesOf(row),
    place: null,
    counts: ['subscribers'],
    amounts: { lifetime: (own.get(`subscription ${row.id}`) ?? []).reduce((sum, one) => sum + profitOf(one), 0) },
  }));
}

/** What was won within 30 days of the first visit that its browser made in these days; it stands where that visit came from. */
async function readThirty(
  db: Sequelize,
  { businessId, timeZone }: AskedFigures,
  reached: readonly ReachedRow[],
  profitOf: (row: ReachedRow) => number,
  days: readonly [Date, Date],
): Promise<Subject[]> {
  const won = reached.filter((row) => profitOf(row) !== 0);
  const visitorsOf = await readVisitorsOf(db, businessId, won);
  const visitors = [...new Set(won.flatMap(visitorsOf))];
  const first = new Map<string, Awaited<ReturnType<typeof readVisitsOfSome>>[number]>();
  for await (const visits of inParts(visitors, (ids) => readVisitsOfSome(db, businessId, ids, days)))
    for (const visit of visits) if (!first.has(visit.visitorId)) first.set(visit.visitorId, visit);
  return won.flatMap((row): Subject[] => {
    const at = row.happenedAt;
    const visit = visitorsOf(row)
      .flatMap((id) => first.get(id) ?? [])
      .filter(({ startedAt }) => startedAt.getTime() <= at && at - startedAt.getTime() < thirtyDays)
      .sort((a, b) => a.startedAt.getTime() - b.startedAt.getTime())[0];
    if (!visit) return [];
    return [
      {
        id: row.id,
        kind: row.subjectKind,
        subjectId: row.subjectId,
        code: row.code,
        at,
        day: dayIn(timeZone, visit.startedAt.getTime()),
        until: at,
        touches: [],
        place: originOf(visit),
        counts: [],
        amounts: { profit_30: profitOf(row) },
      },
    ];
  });
}

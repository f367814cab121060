import type { Sequelize } from 'sequelize';
import { moneyCodes, qualifiedCodes, winningCodes, type BroughtRules } from '../../core/results/brought';
import type { CreditedTouch } from '../../core/results/figures';
import type { Measure } from '../../core/results/measures';
import { dayIn } from '../days';
import { inParts } from '../lists';
import { readEnquired, readReached, type FollowedRow, type ReachedRow } from './queries';
import { readBrought } from './read-brought';
import { distinct, readPaths, readVisitorsOf } from './read-paths';
import { makeReport, type Report } from './report-progress';
import { readWorth } from './read-worth';
import { allOf, type AskedFigures, type Subject } from './asked-figures';
import { readFirstWon } from './worth-queries';

/* Enquiries and outcomes as figures count them, each with the touches of its person. */

/** Measures that only what wins something, or is paid again, adds to. */
const ofMoney: readonly Measure[] = ['won', 'revenue', 'profit', 'new_buyers', 'returning_buyers'];

/** The codes of the outcomes that add to some measures. */
const codesFor = (counted: readonly Measure[], rules: BroughtRules): string[] => [
  ...new Set([
    ...counted.flatMap((one) => (one.startsWith('outcome.') ? [one.slice('outcome.'.length)] : [])),
    ...(counted.includes('qualified') ? qualifiedCodes(rules) : []),
    ...(counted.some((one) => ofMoney.includes(one)) ? moneyCodes(rules) : []),
  ]),
];

/** Enquiries and outcomes of some time, each with the touches of its person. */
export async function readSubjects(
  db: Sequelize,
  asked: AskedFigures,
  counted: readonly Measure[],
  days: readonly [Date, Date],
  report: Report = makeReport(asked.progress),
): Promise<{ subjects: Subject[]; withoutRate: string[] }> {
  const { businessId, rules, segment, timeZone } = asked;
  const [enquired, reached, worth] = await Promise.all([
    counted.includes('leads') ? readEnquired(db, businessId, days, segment) : [],
    readReached(db, businessId, codesFor(counted, rules), winningCodes(rules), days, segment),
    readWorth(db, asked, counted, days, report),
  ]);
  const followed = [...enquired, ...reached];
  const visitorsOf = await readVisitorsOf(db, businessId, followed);
  const touchesOf = await readPaths(db, businessId, followed, visitorsOf, allOf(asked.tables), report);
  const brought = await readBrought(db, asked, reached);
  const isNew = counted.some((one) => one === 'new_buyers' || one === 'returning_buyers')
    ? await readBuyers(db, businessId, winningCodes(rules), reached, visitorsOf)
    : null;
  const subjects = enquired.map((row) => asEnquiry(row, dayIn(timeZone, row.until), touchesOf(row)));
  for (const row of reached) {
    const { counts, amounts } = brought.of(row);
    const buyer = isNew !== null && counts.includes('won') ? (isNew(row) ? 'new_buyers' : 'returning_buyers') : null;
    subjects.push({
      id: row.id,
      kind: row.subjectKind,
      subjectId: row.subjectId,
      code: row.code,
      at: row.happenedAt,
      day: dayIn(timeZone, row.happenedAt),
      until: row.until,
      touches: touchesOf(row),
      place: null,
      counts: buyer === null ? counts : [...counts, buyer],
      amounts,
    });
  }
  return {
    subjects: [...subjects, ...worth.subjects],
    withoutRate: distinct([...brought.withoutRate, ...worth.withoutRate]),
  };
}

/** An enquiry as it counts: once, on its day, by the touches of its person. */
export const asEnquiry = (row: FollowedRow, day: string, touches: CreditedTouch[]): Subject => ({
  id: row.id,
  kind: 'enquiry',
  subjectId: row.id,
  code: '',
  at: row.until,
  day,
  until: row.until,
  touches,
  place: null,
  counts: ['leads'],
  amounts: {},
});

/** Whether nothing was won before of whom something was won: of none of their browsers, nor of the person. */
async function readBuyers(
  db: Sequelize,
  businessId: string,
  codes: string[],
  reached: readonly ReachedRow[],
  visitorsOf: (row: ReachedRow) => string[],
): Promise<(row: ReachedRow) => boolean> {
  const first = new Map<string, number>();
  const ids = distinct(reached.flatMap(visitorsOf));
  const people = distinct(reached.map(({ personId }) => personId));
  const keep = (rows: { id: string; at: Date }[]) => {
    for (const { id, at } of rows) first.set(id, Math.min(at.getTime(), first.get(id) ?? Infinity));
  };
  for await (const rows of inParts(ids, (visitors) => readFirstWon(db, businessId, codes, { visitors, people: [] })))
    keep(rows);
  for await (const rows of inParts(people, (some) =>
    readFirstWon(db, businessId, codes, { visitors: [], people: some }),
  ))
    keep(rows);
  return (row) => [...visitorsOf(row), row.personId ?? ''].every((id) => (first.get(id) ?? Infinity) >= row.happenedAt);
}

import type { Sequelize } from 'sequelize';
import type { Dimension } from '../../core/results/dimensions';
import type { CreditedTouch } from '../../core/results/figures';
import { groupBy } from '../../core/group-by';
import { inParts } from '../lists';
import type { Report } from './report-progress';
import { columnsFor, readBrowsers, readTouches, type FollowedRow } from './queries';
import { makeValues } from './touch-values';

type VisitorsOf = (row: FollowedRow) => string[];

/** The browsers of whoever something is of: all by which its person enquired. */
export async function readVisitorsOf(
  db: Sequelize,
  businessId: string,
  rows: readonly FollowedRow[],
): Promise<VisitorsOf> {
  const browsers = new Map<string, string[]>();
  const people = distinct(rows.map(({ personId }) => personId));
  for await (const part of inParts(people, (ids) => readBrowsers(db, businessId, ids)))
    for (const [person, own] of groupBy(part, ({ personId }) => personId))
      browsers.set(
        person,
        own.map(({ visitorId }) => visitorId),
      );
  return ({ personId, visitorId }) => {
    const known = personId === null ? [] : (browsers.get(personId) ?? []);
    return visitorId === null || known.includes(visitorId) ? known : [...known, visitorId];
  };
}

/**
 * The touches of these browsers, and the one that an enquiry itself names.
 *
 * @param by what is looked at of them: values that no dimension needs stay empty
 */
export async function readPaths(
  db: Sequelize,
  businessId: string,
  rows: readonly FollowedRow[],
  visitorsOf: VisitorsOf,
  by: readonly Dimension[],
  report: Report,
): Promise<(row: FollowedRow) => CreditedTouch[]> {
  const columns = columnsFor(by).filter((name) => name !== 'day');
  const read = (key: 'visitor_id' | 'id') => (ids: string[]) => readTouches(db, businessId, key, ids, columns);
  const named = new Set(distinct(rows.map(({ touchId }) => touchId)));
  const byVisitor = new Map<string, CreditedTouch[]>();
  const byId = new Map<string, CreditedTouch>();
  const valuesOf = makeValues(columns);
  const take = (text: string): CreditedTouch[] =>
    text.split('\n').map((line) => {
      const id = line.slice(0, idLength);
      const end = line.indexOf(' ', idLength + 1);
      const touch = { id, at: Number(line.slice(idLength + 1, end)), values: valuesOf(line.slice(end + 1)) };
      if (named.has(id)) byId.set(id, touch);
      return touch;
    });
  const visitors = distinct(rows.flatMap(visitorsOf));
  report.expect(visitors.length);
  const readAll = async (ids: string[]) => {
    const part = await read('visitor_id')(ids);
    report.did(ids.length);
    return part;
  };
  for await (const part of inParts(visitors, readAll))
    for (const { visitorId, touches } of part) byVisitor.set(visitorId, take(touches));
  const missing = [...named].filter((id) => !byId.has(id));
  for await (const part of inParts(missing, read('id'))) for (const { touches } of part) take(touches);
  return (row) => {
    const touches = visitorsOf(row).flatMap((visitor) => byVisitor.get(visitor) ?? []);
    const own = row.touchId === null ? undefined : byId.get(row.touchId);
    return own && !touches.includes(own) ? [...touches, own] : touches;
  };
}

const idLength = 36;
export const distinct = (ids: readonly (string | null)[]): string[] => [...new Set(ids.filter((id) => id !== null))];

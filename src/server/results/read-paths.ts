import type { Sequelize } from 'sequelize';
import type { Dimension, TouchValues } from '../../core/results/dimensions';
import type { CreditedTouch } from '../../core/results/figures';
import { groupBy } from '../../core/group-by';
import { inParts } from '../lists';
import { columnsFor, readBrowsers, readTouches, type FollowedRow, type OriginColumn } from './queries';

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
): Promise<(row: FollowedRow) => CreditedTouch[]> {
  const columns = columnsFor(by).filter((name) => name !== 'day');
  const read = (key: 'visitor_id' | 'id') => (ids: string[]) => readTouches(db, businessId, key, ids, columns);
  const named = new Set(distinct(rows.map(({ touchId }) => touchId)));
  const byVisitor = new Map<string, CreditedTouch[]>();
  const byId = new Map<string, CreditedTouch>();
  const valuesOf = makeValues(columns);
  const keep = ({ id, at, values, visitorId }: Awaited<ReturnType<typeof readTouches>>[number]) => {
    const touch = { id, at, values: valuesOf(values) };
    if (named.has(id)) byId.set(id, touch);
    const own = byVisitor.get(visitorId);
    if (own) own.push(touch);
    else byVisitor.set(visitorId, [touch]);
  };
  for await (const part of inParts(distinct(rows.flatMap(visitorsOf)), read('visitor_id'))) part.forEach(keep);
  const missing = [...named].filter((id) => !byId.has(id));
  for await (const part of inParts(missing, read('id'))) part.forEach(keep);
  return (row) => {
    const touches = visitorsOf(row).flatMap((visitor) => byVisitor.get(visitor) ?? []);
    const own = row.touchId === null ? undefined : byId.get(row.touchId);
    return own && !touches.includes(own) ? [...touches, own] : touches;
  };
}

const noValues: TouchValues = {
  source: '',
  medium: '',
  campaign: '',
  content: '',
  term: '',
  platform: '',
  referrerHost: '',
  landing: '',
};

/** What touches came with, one object for all that are alike. */
function makeValues(columns: readonly Exclude<OriginColumn, 'day'>[]) {
  const known = new Map<string, TouchValues>();
  return (text: string): TouchValues => {
    let values = known.get(text);
    if (!values) {
      values = { ...noValues };
      const list = JSON.parse(text) as string[];
      for (const [i, name] of columns.entries()) values[name === 'referrer_host' ? 'referrerHost' : name] = list[i]!;
      known.set(text, values);
    }
    return values;
  };
}

export const distinct = (ids: readonly (string | null)[]): string[] => [...new Set(ids.filter((id) => id !== null))];
